import { ArrowRight } from 'lucide-react';
import { useMemo } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { pathOf } from '@/parts/bundles';
import { Grid, type GridColumn } from '@/parts/Grid';
import { hue, hues } from '@/parts/tagLook';
import { useWrittenCells } from '@/shared/useWrittenCells';
import { count } from '@/parts/words';
import type { EditedTag } from './edited';
import { inCell } from './tagCells';

/** A colour is seen; its number is what is typed. */
function colourOf(value: string) {
  const number = Number(value);
  if (!Number.isInteger(number) || number < 1 || number > hues) return value;
  return (
    <span className="inline-flex items-center gap-1.5">
      <span aria-hidden className="size-3 rounded-full" style={{ background: hue(number - 1) }} />
      <span className="text-ink-soft">{value}</span>
    </span>
  );
}

const columns: (GridColumn & { key: Schemas['TagColumn'] })[] = [
  { key: 'name', name: 'Tag', width: 180, read: true },
  { key: 'under', name: 'Under', width: 150 },
  { key: 'definition', name: 'What it is', width: 262 },
  { key: 'isNot', name: 'What it is not', width: 184 },
  { key: 'aliases', name: 'Also called', width: 150 },
  { key: 'state', name: 'State', width: 76, offered: ['settled', 'draft'] },
  { key: 'scale', name: 'Scale', width: 130 },
  { key: 'colour', name: 'Colour', width: 62, draw: colourOf },
];

/** The tag set as a table to type in: blocks of a spreadsheet are pasted, values filled down and written into many cells at once. What is refused stays in its cell with the reason. */
export function TagGrid({ tags, all, onFocus }: { tags: readonly EditedTag[]; all: readonly EditedTag[]; onFocus: (id: number) => void }) {
  const names = useMemo(() => all.map((t) => t.name), [all]);
  const offering = useMemo(() => columns.map((c) => (c.key === 'under' ? { ...c, offered: names } : c)), [names]);
  const written = useWrittenCells({
    keyOf: ({ row, column }) => `${tags[row]!.id} ${columns[column]!.key}`,
    storedAt: ({ row, column }) => inCell(tags[row]!, columns[column]!.key, pathOf(all, tags[row]!)),
    write: async (changed) => {
      const cells = changed.map(({ cell, value }) => ({ tagId: tags[cell.row]!.id, column: columns[cell.column]!.key, value }));
      const { step, refused } = await ask(api.PUT('/api/tags/cells', { body: { cells } }));
      return { step, refused: refused.map((r) => [`${r.tagId} ${r.column}`, r.sentence] as const) };
    },
  });
  const { unsaved, refused } = written;
  const data = useMemo(() => [tags, unsaved], [tags, unsaved]);
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
        valueAt={written.valueAt}
        problemAt={written.problemAt}
        set={written.set}
        end={(row) => (
          <button
            type="button"
            aria-label={`Select ${tags[row]!.name}`}
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
