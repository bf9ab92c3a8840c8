import { expect, test } from 'vitest';
import type { Waiting } from '@/api/waiting/waiting';
import { linesShown, newLine } from './lines';

const arrived = (key: string, beginMs: number) => ({
  id: beginMs,
  key,
  beginMs,
  endMs: beginMs,
  words: key,
  starred: false,
  accountId: 2,
  by: 'Ida',
  tagIds: [],
});
const waiting = (key: string, notesId: number, beginMs: number): Waiting => ({
  ...newLine(1, notesId, `typed ${key}`, beginMs, beginMs),
  order: beginMs,
  key,
  accountId: 1,
  notBefore: 0,
});

test('lines stand in the order of the clock, each once, those of other notes left out', () => {
  const all = [waiting('a', 7, 10), waiting('b', 7, 20), waiting('c', 7, 30), waiting('x', 8, 5)];
  const shown = linesShown([arrived('b', 20), arrived('d', 40)], all, 7, { name: 'Una' });
  expect(shown.map((l) => [l.key, l.waits])).toEqual([
    ['a', true],
    ['b', false],
    ['c', true],
    ['d', false],
  ]);
  expect(shown[0]).toMatchObject({ words: 'typed a', by: 'Una', id: null });
});
