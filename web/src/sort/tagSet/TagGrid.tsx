import { useQueryClient } from '@tanstack/react-query';
import { ArrowRight } from 'lucide-react';
import { useMemo, useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { refetchAfter } from '@/api/refetch';
import { pathOf } from '@/parts/bundles';
import type { Cell } from '@/parts/cells';
import { Grid, type GridColumn } from '@/parts/Grid';
import { count } from '@/parts/words';
import type { EditedTag } from './edited';
import { inCell } from './tagCells';

interface Unsaved {
  value: string;
  /** Why it was refused; null while it is on its way. */
  problem: string | null;
}

const columns: (GridColumn & { key: Schemas['TagColumn'] })[] = [
  { key: 'name', name: 'Tag', width: 180, read: true },
  { key: 'under', name: 'Stands under', width: 150 },
  { key: 'definition', name: 'What it is', width: 262 },
  { key: 'isNot', name: 'What it is not', width: 184 },
  { key: 'aliases', name: 'Also called', width: 150 },
  { key: 'state', name: 'State', width: 76, offered: ['settled', 'draft'] },
  { key: 'scale', name: 'Scale', width: 130 },
  { key: 'colour', name: 'Colour', width: 62 },
];

/** The tag set as a table to type in: blocks of a spreadsheet are pasted, values filled down and written into many cells at once. What is refused stays in its cell with the reason. */
export function TagGrid({ tags, all, onFocus }: { tags: readonly EditedTag[]; all: readonly EditedTag[]; onFocus: (id: number) => void }) {
  const cache = useQueryClient();
  const [unsaved, setUnsaved] = useState<ReadonlyMap<string, Unsaved>>(new Map());
  const data = useMemo(() => [tags, unsaved], [tags, unsaved]);
  const names = useMemo(() => all.map((t) => t.name), [all]);
  const offering = useMemo(() => columns.map((c) => (c.key === 'under' ? { ...c, offered: names } : c)), [names]);
  const keyOf = ({ row, column }: Cell) => `${tags[row]!.id} ${columns[column]!.key}`;
  const storedAt = ({ row, column }: Cell) => inCell(tags[row]!, columns[column]!.key, pathOf(all, tags[row]!));
  const set = async (values: { cell: Cell; value: string }[]) => {
    const changed = values.filter(({ cell, value }) => value !== storedAt(cell) || unsaved.has(keyOf(cell)));
    if (changed.length === 0) return;
    const written = new Map(changed.map(({ cell, value }) => [keyOf(cell), value]));
    const tell = (problems: ReadonlyMap<string, string | null>) =>
      setUnsaved((before) => new Map([...before, ...[...problems].map(([key, problem]): [string, Unsaved] => [key, { value: written.get(key)!, problem }])]));
    const each = (problem: string | null) => new Map([...written.keys()].map((key) => [key, problem]));
    const cells = changed.map(({ cell, value }) => ({ tagId: tags[cell.row]!.id, column: columns[cell.column]!.key, value }));
    tell(each(null));
    try {
      const { step, refused } = await ask(api.PUT('/api/tags/cells', { body: { cells } }));
      await refetchAfter(cache, step);
      setUnsaved((before) => new Map([...before].filter(([key]) => !written.has(key))));
      tell(new Map(refused.map((r) => [`${r.tagId} ${r.column}`, r.sentence])));
    } catch (problem) {
      tell(each((problem as Error).message));
    }
  };
  const refused = [...unsaved.values()].flatMap((u) => u.problem ?? []);
  if (tags.length === 0) return <p className="border-t border-line py-4 text-ink-soft">No tag is called or defined like that.</p>;
  return (
    <div className="flex min-h-0 flex-1 flex-col pb-3">
      {refused.length > 0 && (
        <p role="status" className="pb-1 text-[12.5px] text-oxblood">
          {count(refused.length, 'cell')} not saved. {refused[0]}
        </p>
      )}
      <Grid
        className="min-h-0"
        label="Tags"
        columns={offering}
        rows={tags.length}
        data={data}
        rowKey={(row) => tags[row]!.id}
        rowName={(row) => tags[row]!.name}
        valueAt={(cell) => unsaved.get(keyOf(cell))?.value ?? storedAt(cell)}
        problemAt={(cell) => unsaved.get(keyOf(cell))?.problem ?? undefined}
        set={(values) => void set(values)}
        end={(row) => (
          <button
            type="button"
            aria-label={`Light ${tags[row]!.name}`}
            className="grid size-6 place-items-center rounded-std text-ink-soft hover:bg-wash hover:text-ink"
            onClick={() => onFocus(tags[row]!.id)}
          >
            <ArrowRight aria-hidden className="size-4" />
          </button>
        )}
      />
    </div>
  );
}
