import { expect, it } from 'vitest';
import { shifted, timeOf, timesOf, wordsIn } from './spokenWords';

const words = [
  { start: 0, end: 2, beginMs: 1000, endMs: 1400 },
  { start: 4, end: 9, beginMs: 1400, endMs: 2000 },
  { start: 12, end: 17, beginMs: 5000, endMs: 5600 },
];

it('leads from words to their time and back', () => {
  expect(timeOf(words, { start: 5, end: 13 })).toEqual({ beginMs: 1400, endMs: 5600 });
  expect(timeOf(words, { start: 2, end: 4 })).toBeNull();
  expect(wordsIn(words, { beginMs: 1300, endMs: 1800 })).toEqual({ start: 4, end: 9 });
  expect(wordsIn(words, { beginMs: 2500, endMs: 4000 })).toBeNull();
  for (const word of words) expect(wordsIn(words, timeOf(words, word)!)).toEqual({ start: word.start, end: word.end });
  expect(shifted({ beginMs: 1, endMs: 2 }, 5)).toEqual({ beginMs: 6, endMs: 7 });
});

it('knows of each turn when it is spoken, by itself or by its words', () => {
  const turn = (start: number, end: number, beginMs: number | null = null) => ({ start, end, beginMs, endMs: null });
  expect(timesOf([turn(0, 9), turn(10, 11), turn(12, 17, 4800)], words)).toEqual([{ beginMs: 1000, endMs: 2000 }, null, { beginMs: 4800, endMs: null }]);
});
