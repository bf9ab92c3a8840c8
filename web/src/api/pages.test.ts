import { describe, expect, it } from 'vitest';
import { nextPage, whole } from './pages';

const asked: number[] = [];
const read = (pages: readonly string[][], total: number) =>
  whole(
    (n) => {
      asked.push(n);
      return Promise.resolve({ total, rows: pages[n] ?? [] });
    },
    (page) => page.rows,
  );

describe('a list that comes in pages', () => {
  it('is read to its end, and no page further', async () => {
    expect((await read([['a', 'b'], ['c', 'd'], ['e']], 5)).all).toEqual(['a', 'b', 'c', 'd', 'e']);
    expect(asked.splice(0)).toEqual([0, 1, 2]);
    expect((await read([[]], 0)).all).toEqual([]);
    expect(asked.splice(0)).toEqual([0]);
  });

  it('ends where rows were taken away while it was read', async () => expect((await read([['a', 'b'], []], 3)).all).toEqual(['a', 'b']));

  it('has a next page while rows are missing', () =>
    expect([nextPage(5, [2, 2]), nextPage(4, [2, 2]), nextPage(5, [2, 0])]).toEqual([2, undefined, undefined]));
});
