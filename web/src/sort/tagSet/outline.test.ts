import { describe, expect, it } from 'vitest';
import { placeBy } from '@/shared/tagPlaces';
import { above, outlineOf, placedAt } from './outline';

const tag = (id: number, name: string, parentId: number | null = null, settled = true) => ({ id, name, parentId, settled });
const tags = [
  tag(1, 'hearing'),
  tag(2, 'late', 1),
  tag(3, 'in the taxi', 2),
  tag(4, 'early', 1),
  tag(5, 'mud', null, false),
  tag(6, 'aboard'),
  tag(7, 'draft', 6, false),
];
const none = { closed: new Set<number>(), fits: null, byName: false };
const told = (lines: { tag: { name: string }; depth: number }[]) => lines.map((l) => `${'-'.repeat(l.depth)}${l.tag.name}`);

describe('the tag set as an outline', () => {
  it('has what stands under what, and the open tags that stand alone in a pile', () => {
    const { frame, loose } = outlineOf(tags, none);
    expect(told(frame)).toEqual(['hearing', '-late', '--in the taxi', '-early', 'aboard', '-draft']);
    expect(told(loose)).toEqual(['mud']);
    expect(frame[0]).toMatchObject({ children: 2, open: true });
  });
  it('is closed where it is closed, but not over what is looked for', () => {
    const closed = new Set([1, 6]);
    expect(told(outlineOf(tags, { ...none, closed }).frame)).toEqual(['hearing', 'aboard']);
    const fits = (t: { name: string }) => t.name.includes('taxi');
    expect(told(outlineOf(tags, { ...none, closed, fits }).frame)).toEqual(['hearing', '-late', '--in the taxi']);
    expect(outlineOf(tags, { ...none, fits }).loose).toEqual([]);
  });
  it('is ordered A to Z when that is asked', () =>
    expect(told(outlineOf(tags, { ...none, byName: true }).frame)).toEqual(['aboard', '-draft', 'hearing', '-early', '-late', '--in the taxi']));
  it('shows a tag whose parent is not there at the top', () => expect(told(outlineOf([tag(9, 'alone', 99)], none).frame)).toEqual(['alone']));
  it('tells what stands above', () => expect(above(tags, tags[2]!).map((t) => t.name)).toEqual(['late', 'hearing']));
});

describe('a tag moved by a key', () => {
  const to = (id: number, key: string) => placeBy(tags, id, key);
  it('goes up, down, in and out', () => {
    expect(to(4, 'ArrowUp')).toEqual({ parentId: 1, beforeTagId: 2 });
    expect(to(2, 'ArrowDown')).toEqual({ parentId: 1, beforeTagId: null });
    expect(to(4, 'ArrowRight')).toEqual({ parentId: 2, beforeTagId: null });
    expect(to(3, 'ArrowLeft')).toEqual({ parentId: 1, beforeTagId: 4 });
    expect(to(2, 'ArrowLeft')).toEqual({ parentId: null, beforeTagId: 5 });
  });
  it('goes nowhere from an end, by another key, or when it is not there', () => {
    for (const [id, key] of [
      [2, 'ArrowUp'],
      [4, 'ArrowDown'],
      [1, 'ArrowRight'],
      [1, 'ArrowLeft'],
      [2, 'x'],
      [99, 'ArrowUp'],
    ] as const)
      expect(to(id, key)).toBeNull();
  });
});

it('tags that are put elsewhere stand there at once, with what stands under them', () => {
  const moved = (ids: number[], parentId: number | null, beforeTagId: number | null) =>
    told(outlineOf(placedAt(tags, ids, { parentId, beforeTagId }), none).frame);
  expect(moved([4], 1, 2)).toEqual(['hearing', '-early', '-late', '--in the taxi', 'aboard', '-draft']);
  expect(moved([3, 2], 6, null)).toEqual(['hearing', '-early', 'aboard', '-draft', '-late', '--in the taxi']);
  expect(moved([5], 6, 7)).toEqual(['hearing', '-late', '--in the taxi', '-early', 'aboard', '-mud', '-draft']);
});
