import { describe, expect, it } from 'vitest';
import type { Schemas } from '@/api/client';
import { closeBelow, runsOf, shapesOf } from './shape';

const words = (start: number, end: number) => ({ start, end, length: end - start });
const block = (start: number, end: number, kind: Schemas['BlockKind'], more: Partial<Schemas['Block']> = {}): Schemas['Block'] => ({
  words: words(start, end),
  kind,
  level: 0,
  marker: null,
  cells: null,
  ...more,
});
const bold = (start: number, end: number): Schemas['Emphasis'] => ({ words: words(start, end), bold: true, italic: false });

describe('the runs of a turn', () => {
  it('cover every word once, cut where words stand out', () => {
    const runs = runsOf({ start: 10, end: 30 }, [bold(5, 12), bold(20, 25)]);
    expect(runs.map((r) => [r.start, r.end, r.bold])).toEqual([
      [10, 12, true],
      [12, 20, false],
      [20, 25, true],
      [25, 30, false],
    ]);
  });

  it('are one when nothing stands out', () => expect(runsOf({ start: 0, end: 4 }, [])).toHaveLength(1));
});

describe('the shape of turns', () => {
  const shape: Schemas['Shape'] = {
    blocks: [
      block(0, 4, 'heading', { level: 1 }),
      block(6, 9, 'tableRow', { cells: [{ words: words(6, 7), column: 0 }] }),
      block(10, 15, 'tableRow', {
        cells: [
          { words: words(10, 11), column: 0 },
          { words: words(14, 15), column: 2 },
        ],
      }),
      block(17, 20, 'paragraph'),
    ],
    emphases: [bold(18, 19)],
    pages: [{ number: 2, start: 17 }],
    lines: null,
    times: null,
  };
  const turns = shape.blocks.map((b) => b.words);
  const found = shapesOf(shape, turns);

  it('gives every row of a table the columns of the widest', () => expect([found.get(6)!.columns, found.get(10)!.columns]).toEqual([3, 3]));

  it('keeps rows together and sets the last apart', () => expect([6, 10].map((at) => closeBelow(found.get(at)))).toEqual([true, false]));

  it('tells where a page begins and what stands out', () => {
    expect(found.get(17)!.page).toBe(2);
    expect(found.get(17)!.emphases).toHaveLength(1);
    expect(found.get(0)!.emphases).toHaveLength(0);
  });

  it('says nothing of a turn that is no block of its own', () => expect(shapesOf({ ...shape, emphases: [], pages: [] }, [words(0, 9)]).size).toBe(0));
});
