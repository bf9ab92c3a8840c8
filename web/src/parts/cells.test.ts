import { describe, expect, it } from 'vitest';
import { areaOf, blockOf, cellsOf, filledDown, isIn, moved, placed, textOf } from './cells';

const cell = (row: number, column: number) => ({ row, column });

describe('a block from the clipboard', () => {
  it('is read as a spreadsheet writes it', () =>
    expect(blockOf('a\tb\r\n"c\nd"\t"say ""aye"""\r\n')).toEqual([
      ['a', 'b'],
      ['c\nd', 'say "aye"'],
    ]));
  it('comes back as it was', () => {
    const block = [
      ['a', 'b\tc'],
      ['"', 'd\ne'],
    ];
    expect(blockOf(textOf(block))).toEqual(block);
  });
  it('keeps empty cells', () =>
    expect(blockOf('\t\tx\n\t\t')).toEqual([
      ['', '', 'x'],
      ['', '', ''],
    ]));
});

describe('where values go', () => {
  it('fills the whole area with one value', () => expect(placed([['x']], areaOf(cell(2, 1), cell(0, 0)), 9, 9)).toHaveLength(6));
  it('begins a block at the corner and cuts it at the edge', () =>
    expect(
      placed(
        [
          ['1', '2'],
          ['3', '4'],
        ],
        areaOf(cell(1, 1), cell(1, 1)),
        3,
        2,
      ),
    ).toEqual([
      { cell: cell(1, 1), value: '1' },
      { cell: cell(2, 1), value: '3' },
    ]));
  it('fills down from the first row, column by column', () =>
    expect(filledDown(areaOf(cell(0, 0), cell(2, 1)), ({ row, column }) => `${row}${column}`)).toEqual([
      { cell: cell(1, 0), value: '00' },
      { cell: cell(1, 1), value: '01' },
      { cell: cell(2, 0), value: '00' },
      { cell: cell(2, 1), value: '01' },
    ]));
});

describe('areas and keys', () => {
  it('an area is the same from either corner', () => {
    expect(areaOf(cell(3, 1), cell(1, 4))).toEqual(areaOf(cell(1, 4), cell(3, 1)));
    expect(cellsOf(areaOf(cell(3, 1), cell(1, 4)))).toHaveLength(12);
    expect(isIn(areaOf(cell(0, 0), cell(1, 1)), cell(1, 2))).toBe(false);
  });
  it('keys stay inside the grid', () => {
    expect(moved('ArrowUp', cell(0, 3), 5, 5, 10, false)).toEqual(cell(0, 3));
    expect(moved('PageDown', cell(0, 3), 5, 5, 10, false)).toEqual(cell(4, 3));
    expect(moved('End', cell(0, 0), 5, 5, 10, true)).toEqual(cell(4, 4));
    expect(moved('x', cell(0, 0), 5, 5, 10, false)).toBeNull();
  });
});
