import { expect, it } from 'vitest';
import { kappaInWords, onLine, outcomes, settledInWords, whyUndefined } from './inWords';

it('says kappa, or that there is none and why', () => {
  expect(kappaInWords({ kappa: 0.716, percent: 0.969 })).toBe('97 % the same, kappa 0.72');
  expect(kappaInWords({ kappa: null, percent: 1 })).toBe('kappa is undefined');
  expect(whyUndefined('allMarked')).toContain('everywhere');
});

it('draws an interval between 0 and 1', () => {
  expect(onLine(0.5, 0.1)).toEqual({ from: 30, to: 70, at: 50 });
  expect(onLine(0.95, 0.2)).toEqual({ from: 56, to: 100, at: 95 });
  expect(onLine(-0.2, 0.05)).toEqual({ from: 0, to: 0, at: 0 });
});

it('says whose marks stand', () => {
  expect(outcomes.map((o) => `${o.key} ${o.words('Ida', 'Tom')}`)).toEqual(['1 Ida’s', '2 Tom’s', '3 both', '4 neither', '5 talk about it']);
  expect(settledInWords('second', 'Ida', 'Tom', 'Una Kerr')).toBe('settled: Tom’s, by Una Kerr');
  expect(settledInWords('talk', 'Ida', 'Tom', 'Una Kerr')).toBe('to be talked about, said Una Kerr');
});
