import { expect, test } from 'vitest';
import { differing } from './differing';

test.each([
  ['I herd it on the quay', 'I heard it on the quay', ['I ', 'herd', ' it on the quay'], ['I ', 'heard', ' it on the quay']],
  ['the quay', 'the quay at noon', ['the quay', '', ''], ['the quay', ' at noon', '']],
  ['so so', 'so', ['so', ' so', ''], ['so', '', '']],
  ['same', 'same', ['same', '', ''], ['same', '', '']],
])('%s and %s differ between words', (old, now, oldCut, nowCut) => {
  expect(differing(old, now)).toEqual({ old: oldCut, now: nowCut });
});
