import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState } from 'react';
import { LongList } from '@/parts/LongList';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { Box, Word } from '@/parts/WordChoices';
import type { EditedTag } from './edited';
import { columns, kinds, listedBy, type Column, type Kind } from './tagColumns';

interface Props {
  tags: readonly EditedTag[];
  look: (id: number) => TagLook;
  focused: number | null;
  onFocus: (id: number) => void;
  onOpen: (id: number) => void;
  chosen: ReadonlySet<number>;
  onChoose: (id: number) => void;
  /** People and sources are counted: it is the tag set of one study. */
  broad: boolean;
}

const columnWords: Record<Column, string> = {
  name: 'Tag',
  people: 'People',
  observations: 'Observations',
  sources: 'Sources',
  lastUsed: 'Last used',
  madeBy: 'Made by',
};
const kindWords: Record<Kind, string> = {
  drafts: 'drafts',
  undefined: 'those without a definition',
  once: 'those used once',
  onePerson: 'those of one person only',
  unused: 'those never used',
  retired: 'those that are retired',
};

const shortDay = (iso: string) => new Date(iso).toLocaleDateString(undefined, { dateStyle: 'medium' });

/** The tags one below the other with their figures, ordered by any column. */
export function TagList({ tags, look, focused, onFocus, onOpen, chosen, onChoose, broad }: Props) {
  const [column, setColumn] = useState<Column>('observations');
  const [down, setDown] = useState(true);
  const [kind, setKind] = useState<Kind | null>(null);
  const shown = columns.filter((c) => broad || (c !== 'people' && c !== 'sources'));
  const rows = listedBy(tags, kind, column, down);
  const grid = `grid ${broad ? 'grid-cols-[26px_minmax(0,1fr)_60px_100px_68px_104px_110px]' : 'grid-cols-[26px_minmax(0,1fr)_100px_104px_110px]'} gap-x-2`;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <p className="pb-1 text-[12.5px] text-ink-soft">
        {rows.length} of {tags.length},{' '}
        <Word label={kind === null ? 'all of them' : kindWords[kind]} set={kind !== null}>
          {kinds
            .filter((k) => broad || k !== 'onePerson')
            .map((k) => (
              <Box key={k} label={`Only ${kindWords[k]}`} on={kind === k} onChange={() => setKind(kind === k ? null : k)} />
            ))}
        </Word>
      </p>
      <div className={`${grid} border-b border-line pb-1 text-[12.5px]`}>
        <span />
        {shown.map((c) => (
          <button
            key={c}
            type="button"
            aria-label={`Order by ${columnWords[c].toLowerCase()}`}
            aria-pressed={column === c}
            className={`flex min-h-6 items-center gap-1 ${c === 'name' || c === 'madeBy' ? '' : 'justify-end'} ${column === c ? 'font-semibold' : 'text-ink-soft hover:text-ink'}`}
            onClick={() => {
              setDown(column === c ? !down : c !== 'name' && c !== 'madeBy');
              setColumn(c);
            }}
          >
            {columnWords[c]}
            {column === c && (down ? <ArrowDown aria-hidden className="size-3" /> : <ArrowUp aria-hidden className="size-3" />)}
          </button>
        ))}
      </div>
      <LongList label="Tags" items={rows} keyOf={(t) => t.id} height={31} className="min-h-0 flex-1">
        {(tag) => (
          <div className={`${grid} h-[31px] items-center border-b border-line text-[13px] ${tag.id === focused ? 'bg-wash' : ''}`}>
            <input
              type="checkbox"
              aria-label={`Choose ${tag.name}`}
              className="ml-1 size-4 accent-verdigris"
              checked={chosen.has(tag.id)}
              onChange={() => onChoose(tag.id)}
            />
            <button
              type="button"
              className="flex min-w-0 items-center gap-2 text-left hover:underline"
              onFocus={() => onFocus(tag.id)}
              onClick={() => onFocus(tag.id)}
              onDoubleClick={() => onOpen(tag.id)}
            >
              <TagDot look={look(tag.id)} />
              <span className="truncate">{tag.name}</span>
            </button>
            {broad && <span className="text-right tabular-nums">{tag.breadth?.triple.people ?? 0}</span>}
            <span className="text-right tabular-nums">{tag.breadth?.triple.observations ?? tag.observations}</span>
            {broad && <span className="text-right tabular-nums">{tag.breadth?.triple.sources ?? 0}</span>}
            <span className="text-right whitespace-nowrap text-ink-soft">{tag.lastUsedAt ? shortDay(tag.lastUsedAt) : '·'}</span>
            <span className="truncate text-ink-soft">{tag.madeBy}</span>
          </div>
        )}
      </LongList>
    </div>
  );
}
