import type { Schemas } from '@/api/client';
import type { TextRange } from '@/mark/observations/place';

type Block = Schemas['Block'];

/** What a document says of one turn: what it is, what stands out in it, and whether a page begins with it. */
export interface TurnShape {
  block: Block | undefined;
  emphases: readonly Schemas['Emphasis'][];
  page: number | undefined;
  /** Of a table row: how many columns its table has, and whether it is the table's last row. */
  columns: number;
  last: boolean;
}

/** The shape of each turn, by where it begins. Turns that a document says nothing of are left out. */
export function shapesOf(shape: Schemas['Shape'] | null, turns: readonly TextRange[]): Map<number, TurnShape> {
  const found = new Map<number, TurnShape>();
  if (!shape) return found;
  const blocks = new Map(shape.blocks.map((b, i) => [b.words.start, i]));
  const columns = columnsOf(shape.blocks);
  let emphasis = 0;
  for (const turn of turns) {
    const emphases: Schemas['Emphasis'][] = [];
    while (emphasis < shape.emphases.length && shape.emphases[emphasis]!.words.end <= turn.start) emphasis++;
    for (let e = emphasis; e < shape.emphases.length && shape.emphases[e]!.words.start < turn.end; e++) emphases.push(shape.emphases[e]!);
    const at = blocks.get(turn.start);
    const block = at === undefined || shape.blocks[at]!.words.end !== turn.end ? undefined : shape.blocks[at];
    const next = block && shape.blocks[at! + 1];
    const page = shape.pages.findLast((p) => p.start >= turn.start && p.start < turn.end)?.number;
    if (block || emphases.length > 0 || page !== undefined)
      found.set(turn.start, { block, emphases, page, columns: (at === undefined ? undefined : columns[at]) ?? 0, last: next?.kind !== block?.kind });
  }
  return found;
}

function columnsOf(blocks: readonly Block[]): number[] {
  const columns = blocks.map((b) => 1 + Math.max(-1, ...(b.cells ?? []).map((c) => c.column)));
  for (let from = 0; from < blocks.length; from++) {
    let to = from;
    while (blocks[to]?.kind === 'tableRow' && blocks[to + 1]?.kind === 'tableRow') to++;
    columns.fill(Math.max(...columns.slice(from, to + 1)), from, to + 1);
    from = to;
  }
  return columns;
}

/** Rows of a table and items of a list stand close together. */
export const closeBelow = (shape: TurnShape | undefined) =>
  shape !== undefined && !shape.last && (shape.block?.kind === 'listItem' || shape.block?.kind === 'tableRow');

export interface Run extends TextRange {
  bold: boolean;
  italic: boolean;
}

/** A stretch cut where words begin or end to stand out. */
export function runsOf({ start, end }: TextRange, emphases: readonly Schemas['Emphasis'][]): Run[] {
  const runs: Run[] = [];
  let at = start;
  const plain = (to: number) => {
    if (to > at) runs.push({ start: at, end: to, bold: false, italic: false });
  };
  for (const { words, bold, italic } of emphases) {
    const [from, to] = [Math.max(at, words.start), Math.min(end, words.end)];
    if (to <= from) continue;
    plain(from);
    runs.push({ start: from, end: to, bold, italic });
    at = to;
  }
  plain(end);
  return runs;
}
