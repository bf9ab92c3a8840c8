import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Step } from '@/api/client';
import { refetchAfter } from '@/api/refetch';
import type { Cell } from '@/parts/cells';

interface Unsaved {
  value: string;
  /** Why it was refused; null while it is on its way. */
  problem: string | null;
}

interface Kept {
  /** Tells one cell from another, whatever order its rows are in. */
  keyOf: (cell: Cell) => string;
  /** What the server has. */
  storedAt: (cell: Cell) => string;
  /** Writes cells; what is refused is answered by their keys, each with a sentence. */
  write: (cells: { cell: Cell; value: string }[]) => Promise<{ step: Step; refused: (readonly [key: string, sentence: string])[] }>;
}

/** Cells of a grid that are written many at once: what is typed is shown at once, and stays in its cell with the reason when it is refused. */
export function useWrittenCells({ keyOf, storedAt, write }: Kept) {
  const cache = useQueryClient();
  const [unsaved, setUnsaved] = useState<ReadonlyMap<string, Unsaved>>(new Map());
  const set = async (values: { cell: Cell; value: string }[]) => {
    const changed = values.filter(({ cell, value }) => value !== storedAt(cell) || unsaved.has(keyOf(cell)));
    if (changed.length === 0) return;
    const written = new Map(changed.map(({ cell, value }) => [keyOf(cell), value]));
    const tell = (problems: ReadonlyMap<string, string | null>) =>
      setUnsaved((before) => new Map([...before, ...[...problems].map(([key, problem]): [string, Unsaved] => [key, { value: written.get(key)!, problem }])]));
    const each = (problem: string | null) => new Map([...written.keys()].map((key) => [key, problem]));
    tell(each(null));
    try {
      const { step, refused } = await write(changed);
      await refetchAfter(cache, step);
      setUnsaved((before) => new Map([...before].filter(([key]) => !written.has(key))));
      tell(new Map(refused));
    } catch (problem) {
      tell(each((problem as Error).message));
    }
  };
  return {
    set: (values: { cell: Cell; value: string }[]) => void set(values),
    valueAt: (cell: Cell) => unsaved.get(keyOf(cell))?.value ?? storedAt(cell),
    problemAt: (cell: Cell) => unsaved.get(keyOf(cell))?.problem ?? undefined,
    /** Another one whenever something else stands in the cells. */
    unsaved,
    /** Why each of those was refused that are not saved. */
    refused: [...unsaved.values()].flatMap((u) => u.problem ?? []),
  };
}
