import { expect, it } from 'vitest';
import { nearTags } from './nearTags';

it('tells tags of marks near a place, nearest first, each once, and none from far away', () => {
  const mark = (start: number, end: number, ...tagIds: number[]) => ({ start, end, tagIds });
  const marks = [mark(0, 10, 1, 2), mark(40, 60, 3), mark(50, 60, 2), mark(80, 90, 4), mark(9000, 9010, 5)];
  expect(nearTags(marks, { start: 50, end: 60 })).toEqual([3, 4, 1, 2]);
  expect(nearTags([], { start: 0, end: 1 })).toEqual([]);
});
