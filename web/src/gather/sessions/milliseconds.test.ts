import { expect, test } from 'vitest';
import { milliseconds } from './milliseconds';

test.each([
  ['12:03', 723_000],
  ['1:02:06', 3_726_000],
  [' 0:05.25 ', 5_250],
  ['75:00', 4_500_000],
  ['12', null],
  ['12:60', null],
  ['noon', null],
])('%s is %s', (typed, ms) => {
  expect(milliseconds(typed)).toBe(ms);
});
