import { describe, expect, it } from 'vitest';
import { lanes, folded, stacked, threadsOf } from './threads';

const colour = (id: number) => `c${id}`;
const mark = (id: number, start: number, end: number, ...tagIds: number[]) => ({ id, start, end, tagIds });
const lanesOf = (...marks: ReturnType<typeof mark>[]) => threadsOf(marks, colour, 'none').map((t) => [t.observationId, t.colour, t.lane]);

describe('threads under the words', () => {
  it('draws one thread for each tag', () =>
    expect(lanesOf(mark(1, 0, 9, 5, 6))).toEqual([
      [1, 'c5', 0],
      [1, 'c6', 1],
    ]));
  it('draws an observation without tags too', () => expect(lanesOf(mark(1, 0, 9))).toEqual([[1, 'none', 0]]));
  it('gives overlapping and nested stretches lanes of their own, the longer nearest the words', () =>
    expect(lanesOf(mark(2, 5, 8, 1), mark(1, 0, 10, 1), mark(3, 9, 20, 1))).toEqual([
      [1, 'c1', 0],
      [2, 'c1', 1],
      [3, 'c1', 1],
    ]));
  it('uses a lane again where stretches only meet', () =>
    expect(lanesOf(mark(1, 0, 5, 1), mark(2, 5, 9, 1))).toEqual([
      [1, 'c1', 0],
      [2, 'c1', 0],
    ]));
  it('shares the last lane when there are too many', () => {
    const threads = threadsOf(
      Array.from({ length: 7 }, (_, i) => mark(i, i, 50, 1)),
      colour,
      'none',
    );
    expect(Math.max(...threads.map((t) => t.lane))).toBe(lanes - 1);
  });
  it('never lets two threads of one lane overlap before the last', () => {
    let seed = 7;
    const next = (n: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % n;
    const marks = Array.from({ length: 60 }, (_, i) => {
      const start = next(200);
      return mark(i, start, start + 1 + next(30), 1);
    });
    const threads = threadsOf(marks, colour, 'none').filter((t) => t.lane < lanes - 1);
    for (const a of threads) for (const b of threads) if (a !== b && a.lane === b.lane) expect(a.start < b.end && b.start < a.end).toBe(false);
  });
});

describe('labels in the margin', () => {
  it('stand where wanted when there is room', () => expect(stacked([0, 40, 90].map((wanted) => ({ wanted, height: 26 })))).toEqual([0, 40, 90]));
  it('are pushed down when they would cover each other', () =>
    expect(stacked([0, 0, 10, 100].map((wanted) => ({ wanted, height: 26 })))).toEqual([0, 26, 52, 100]));
});

describe('labels of a full line', () => {
  const at = (wanted: number, id: number) => ({ wanted, id });
  const six = [at(0, 1), at(0, 2), at(0, 3), at(0, 4), at(0, 5), at(28, 6)];
  it('fold to two and the number of the others, until the line is opened', () => {
    expect(folded(six, () => false)).toEqual([at(0, 1), at(0, 2), { more: 3, wanted: 0 }, at(28, 6)]);
    expect(folded(six, (line) => line.some((l) => l.id === 4))).toEqual(six);
    expect(folded(six.slice(2), () => false)).toEqual(six.slice(2));
  });
});
