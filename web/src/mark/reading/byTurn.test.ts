import { describe, expect, it } from 'vitest';
import { byTurn } from './byTurn';

const turns = [
  { start: 0, end: 10 },
  { start: 12, end: 20 },
  { start: 22, end: 30 },
];

describe('what touches each turn', () => {
  it('is found once for each turn it shares a unit with, in order', () => {
    const [a, b, c, d] = [
      { start: 0, end: 10 },
      { start: 5, end: 25 },
      { start: 12, end: 14 },
      { start: 20, end: 22 },
    ];
    expect(byTurn(turns, [a, b, c, d])).toEqual([[a, b], [b, c], [b]]);
  });

  it('is the same empty list where nothing does', () => {
    const found = byTurn(turns, [{ start: 12, end: 13 }]);
    expect(found[0]).toBe(found[2]);
    expect(byTurn([], [])).toEqual([]);
  });

  it('agrees with looking at each turn for each item', () => {
    let random = 7;
    const next = (n: number) => (random = (random * 1103515245 + 12345) % 2147483648) % n;
    for (let round = 0; round < 50; round++) {
      const many = Array.from({ length: 20 }, (_, i) => ({ start: i * 10, end: i * 10 + 1 + next(10) }));
      const items = Array.from({ length: 30 }, () => {
        const start = next(200);
        return { start, end: start + 1 + next(40) };
      }).sort((x, y) => x.start - y.start);
      expect(byTurn(many, items)).toEqual(many.map((t) => items.filter((o) => o.start < t.end && o.end > t.start)));
    }
  });
});
