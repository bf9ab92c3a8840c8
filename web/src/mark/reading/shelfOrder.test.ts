// @vitest-environment jsdom
import { expect, it } from 'vitest';
import { neighbour, shelfOrder } from './shelfOrder';

const sources = [
  { id: 1, kind: 'document' as const },
  { id: 2, kind: 'interview' as const },
  { id: 3, kind: 'usabilityTest' as const },
  { id: 4, kind: 'interview' as const },
];

it('stands kind by kind, and inside a kind as given', () => expect(shelfOrder(sources).map((s) => s.id)).toEqual([2, 4, 3, 1]));

it('goes on to the next kind, and stops at the ends', () => {
  expect(neighbour(sources, 4, 1)?.id).toBe(3);
  expect(neighbour(sources, 4, -1)?.id).toBe(2);
  expect(neighbour(sources, 2, -1)).toBeUndefined();
  expect(neighbour(sources, 1, 1)).toBeUndefined();
  expect(neighbour(sources, 99, 1)).toBeUndefined();
});
