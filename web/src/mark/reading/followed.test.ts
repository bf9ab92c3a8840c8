import { expect, it } from 'vitest';
import { followed } from './followed';

it('tells where a place is after a correction', () => {
  const [before, after] = ['She wated on the quay.', 'She waited long on the quay.'];
  expect(followed(before, after, 3)).toBe(3);
  expect(followed(before, after, before.indexOf('quay'))).toBe(after.indexOf('quay'));
  expect(followed(before, after, before.length)).toBe(after.length);
  expect(followed('one two three', 'one 2 three', 5)).toBeNull();
  expect(followed('aaa', 'aaaa', 3)).toBe(3);
});
