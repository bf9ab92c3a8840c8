import { describe, expect, it } from 'vitest';
import type { NewWaiting, Waiting } from '@/api/waiting/waiting';
import { shownMarks, writes } from './writes';

const observation = (id: number, start: number, tagIds: number[] = []) => ({
  id,
  sourceId: 4,
  anchor: { kind: 'text' as const, start, end: start + 10 },
  note: '',
  sentiment: null,
  starred: false,
  unsure: false,
  found: false,
  late: false,
  values: {},
  version: 1,
  createdById: 1,
  createdBy: 'Ida',
  createdAt: '',
  tagIds,
});
const waiting = (...all: NewWaiting[]): Waiting[] => all.map((w, i) => ({ ...w, order: i, key: String(i), accountId: 1, notBefore: 0 }));

describe('marks that wait', () => {
  it('are shown in text order, with the names of tags that are yet to be made', () => {
    const mark = writes.mark(4, { start: 5, end: 9 }, { tagIds: [1], newTags: ['queue'] }, 'words', 'h');
    const shown = shownMarks([observation(1, 0), observation(2, 20)], waiting(mark), 4);
    expect(shown.map((o) => o.start)).toEqual([0, 5, 20]);
    expect(shown[1]).toMatchObject({ id: mark.makes, tagIds: [1], newTags: ['queue'], waits: true });
    expect(shownMarks([], waiting(mark), 5)).toEqual([]);
  });

  it('are not shown twice when the server’s own has come', () => {
    const mark = writes.mark(4, { start: 5, end: 15 }, { tagIds: [1], newTags: ['queue'] }, 'words', 'h');
    expect(shownMarks([observation(9, 5, [1, 30])], waiting(mark), 4)).toHaveLength(1);
  });

  it('change what is there: tags, sentiment, star, removal, in the order made', () => {
    const mark = writes.mark(4, { start: 50, end: 60 }, { tagIds: [], newTags: [] }, 'words', 'h');
    const shown = shownMarks(
      [observation(1, 0, [7]), observation(2, 20, [7, 8])],
      waiting(
        writes.tag(3, 1, { tagIds: [8], newTags: ['new'] }),
        writes.untag(2, 7),
        writes.sentiment(2, 'negative'),
        writes.star(2, true),
        mark,
        writes.star(mark.makes, true),
        writes.remove(3, 1),
      ),
      4,
    );
    expect(shown).toMatchObject([
      { id: 2, tagIds: [8], sentiment: 'negative', starred: true, waits: true },
      { id: mark.makes, starred: true },
    ]);
  });

  it('are the same objects each time for what nothing waits for, and leave out what is not on the text', () => {
    const all = [observation(1, 0), { ...observation(2, 0), anchor: { kind: 'time' as const, beginMs: 0, endMs: 9 } }];
    const [shown, ...rest] = shownMarks(all, [], 4);
    expect([shown, ...rest]).toEqual([expect.objectContaining({ id: 1, start: 0, end: 10 })]);
    expect(shownMarks(all, waiting(writes.star({ ...shown!, id: 7 }.id, true)), 4)[0]).toBe(shown);
  });

  it('never get one number twice', () => {
    const numbers = Array.from({ length: 50 }, () => writes.mark(4, { start: 0, end: 1 }, { tagIds: [], newTags: [] }, 'x', 'h').makes);
    expect(new Set(numbers).size).toBe(50);
    expect(Math.max(...numbers)).toBeLessThan(0);
  });
});
