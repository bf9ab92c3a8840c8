import { expect, it } from 'vitest';
import { onScale, stepsOf } from './scale';

const scale = (least: number, most: number, step: number) => ({ least, most, step, unit: '', lowLabel: '', highLabel: '' });

it('has every step, without dust', () => {
  expect(stepsOf(scale(1, 5, 1))).toEqual([1, 2, 3, 4, 5]);
  expect(stepsOf(scale(0, 0.5, 0.1))).toEqual([0, 0.1, 0.2, 0.3, 0.4, 0.5]);
  expect(stepsOf(scale(0, 10, 3))).toEqual([0, 3, 6, 9]);
});

it('tells what is on it', () => {
  expect(onScale(scale(0, 1, 0.1), 0.3)).toBe(true);
  expect(onScale(scale(0, 90, 5), 44)).toBe(false);
  expect(onScale(scale(1, 5, 1), 6)).toBe(false);
  expect(onScale(scale(1, 5, 1), Number('x'))).toBe(false);
});
