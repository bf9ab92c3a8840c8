import { expect, it } from 'vitest';
import { ticksOf } from './overview';

const mark = (start: number, ...tagIds: number[]) => ({ start, tagIds });

it('the marks of a source are ticks on its ruler, and those of one place are one', () => {
  const ticks = ticksOf([mark(0, 7), mark(1), mark(500, 8), mark(999)], 1000, (id) => `colour ${id}`);
  expect(ticks).toEqual([
    { at: 0, count: 2, colour: 'colour 7' },
    { at: 0.5, count: 1, colour: 'colour 8' },
    { at: 239 / 240, count: 1, colour: 'var(--ink-soft)' },
  ]);
  expect(ticksOf([mark(0)], 0, () => '')).toHaveLength(1);
});
