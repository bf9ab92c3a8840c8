import { useDraggable } from '@dnd-kit/core';
import { useQueryClient } from '@tanstack/react-query';
import { Star } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import type { Schemas } from '@/api/client';
import { queries, type UnsortedBy, type UnsortedOf } from '@/api/queries';
import { fold } from '@/parts/findTags';
import { LongList } from '@/parts/LongList';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { useSettled } from '@/parts/useSettled';
import { QuoteWords } from '@/parts/QuoteWords';
import { whoIs } from '@/parts/QuoteItem';
import { TagDot, TagLabel } from '@/parts/TagLabel';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { useWhere } from '@/shared/filter/useWhere';
import { asQuery } from '@/shared/filter/where';
import { useEvidence } from '@/shared/useEvidence';
import { useKept } from '@/shared/useKept';
import { useUnsorted } from '@/shared/useQuotes';
import { clock, count } from '@/parts/words';
import { Word } from '@/parts/WordChoices';
import { lassoOf, nothing, type Chosen } from './chosen';
import { useOthersInHand } from '@/shared/inHand';
import { InHandOf, New } from './New';

interface Props {
  studyId: number;
  table: Schemas['SortingTable'];
  tags: readonly TagUse[];
  people: readonly Schemas['Participant'][];
  look: (id: number) => TagLook;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  view: ShelfView;
  onView: (view: ShelfView) => void;
  /** All that the shelf holds now, for whoever chooses it; of observations also those that are not fetched yet. */
  allRef: RefObject<() => Promise<Chosen>>;
  /** What is on its way off the shelf. */
  leaving: ReadonlySet<number>;
}

/** What lies on the shelf: what nobody has decided about, whole tags, or what was left out on purpose. */
export type ShelfView = 'observations' | 'tags' | 'leftOut';

const byWords: Record<UnsortedBy, string> = {
  person: 'by person',
  source: 'by source',
  tag: 'by tag',
  sentiment: 'by sentiment',
  nothing: 'latest first',
};
const orders = Object.keys(byWords) as UnsortedBy[];
const isBy = (value: unknown): value is UnsortedBy => orders.includes(value as UnsortedBy);

/** Where each group begins, and how much of it stays. */
function headsOf(groups: readonly Schemas['UnsortedGroup'][], fetched: readonly Schemas['Quote'][], leaving: ReadonlySet<number>) {
  const heads = new Map<number, Schemas['UnsortedGroup']>();
  let [at, shown] = [0, 0];
  for (const group of groups) {
    const gone = leaving.size === 0 ? 0 : fetched.slice(at, at + group.observations).filter((q) => leaving.has(q.observationId)).length;
    const observations = group.observations - gone;
    if (observations > 0) heads.set(shown, { ...group, observations });
    at += group.observations;
    shown += observations;
  }
  return heads;
}

const toggled = (ids: number[], id: number) => (ids.includes(id) ? ids.filter((x) => x !== id) : [...ids, id]);

/** What lies in no theme yet, by person; and the tags, to be put into a theme whole. */
export function UnsortedShelf({ studyId, table, tags, people, look, chosen, onChoose, view, onView, allRef, leaving }: Props) {
  const cache = useQueryClient();
  const others = useOthersInHand();
  const last = useRef<number | null>(null);
  const [typed, setTyped] = useState('');
  const { open } = useEvidence();
  const { where } = useWhere();
  const who = whoIs(people);
  const inThemes = new Set(table.themes.flatMap((t) => t.theme.tagIds));
  const looked = useSettled(typed, 200);
  const [by, setBy] = useKept<UnsortedBy>('unsorted-by', 'person', isBy);
  const asked = (words: string): UnsortedOf => ({ words, leftOut: view === 'leftOut', groupBy: by, ...asQuery(where) });
  const { quotes: fetched, total: inAll, groups, fresh, more } = useUnsorted(queries.unsorted(studyId, asked(looked)));
  const heads = headsOf(groups, fetched, leaving);
  const unsorted = leaving.size === 0 ? fetched : fetched.filter((q) => !leaving.has(q.observationId));
  const total = inAll === undefined ? undefined : inAll - (fetched.length - unsorted.length);
  const nameOf = ({ participantId, sourceId, tagId, sentiment }: Schemas['UnsortedGroup']) =>
    by === 'person'
      ? who(participantId)
      : by === 'source'
        ? (unsorted.find((q) => q.sourceId === sourceId)?.sourceTitle ?? 'A source')
        : by === 'tag'
          ? tagId === null
            ? 'No tag'
            : look(tagId).name
          : sentiment === null
            ? 'No sentiment'
            : `${sentiment[0]!.toUpperCase()}${sentiment.slice(1)}`;
  const free = tags.filter((t) => t.breadth.triple.observations > 0 && fold(t.tag.name).includes(fold(typed)));
  useEffect(() => {
    allRef.current = async () =>
      view === 'tags'
        ? { ...nothing, tags: free.map((t) => t.tag.id) }
        : {
            ...nothing,
            observations: await cache.fetchQuery(queries.unsortedIds(studyId, asked(typed))),
          };
  });
  const tab = (name: ShelfView, words: string) => (
    <button
      type="button"
      role="tab"
      aria-selected={view === name}
      onClick={() => onView(name)}
      className={`min-h-7 border-b-2 px-0.5 text-[12.5px] ${view === name ? 'border-verdigris font-semibold' : 'border-transparent text-ink-soft'}`}
    >
      {words}
    </button>
  );
  return (
    <aside aria-label="Unsorted" className="flex flex-col overflow-hidden border-r border-line bg-paper-deep">
      <div className="px-5 pt-3">
        <div role="tablist" aria-label="What to sort" className="flex gap-3.5">
          {tab('observations', `Unsorted, ${table.unsorted}`)}
          {tab('tags', `Tags, ${tags.filter((t) => t.breadth.triple.observations > 0).length}`)}
          {tab('leftOut', `Left out, ${table.leftOut}`)}
        </div>
        <input
          aria-label="Find among these"
          placeholder={
            view === 'tags' ? 'Find a tag' : `Find words in ${view === 'leftOut' ? table.leftOut : table.unsorted} of ${table.observations} observations`
          }
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="mt-2.5 mb-2 w-full rounded-std border border-line bg-case px-2.5 py-1 text-[13px] placeholder:text-ink-soft"
        />
      </div>
      {view !== 'tags' && (
        <p className="px-5 pb-1 text-[12px] text-ink-soft">
          <Word label={byWords[by]} set={false}>
            {orders.map((one) => (
              <label key={one} className="flex min-h-7 cursor-pointer items-center gap-2 rounded-[4px] px-1.5 hover:bg-wash">
                <input type="radio" name="unsorted-by" className="size-4 accent-verdigris" checked={by === one} onChange={() => setBy(one)} />
                {byWords[one]}
              </label>
            ))}
          </Word>
        </p>
      )}
      {view !== 'tags' && total === 0 && (
        <p className="px-5 py-6 text-center text-ink-soft">
          {typed || where
            ? 'Nothing here fits.'
            : view === 'observations'
              ? 'Everything is in a theme, or left out.'
              : 'Nothing was left out. Choose what belongs in no theme and press x: it stands here, and counts as looked at.'}
        </p>
      )}
      {view !== 'tags' && (
        <LongList
          key={view}
          label={view === 'leftOut' ? 'Observations that were left out' : 'Unsorted observations'}
          items={unsorted}
          keyOf={(q) => q.observationId}
          height={90}
          gap={6}
          total={total ?? 0}
          onNearEnd={more}
          className="min-h-0 flex-1 px-5 pt-0.5 pb-5"
        >
          {(q, i) => (
            <>
              {heads.has(i) && (
                <GroupName
                  name={nameOf(heads.get(i)!)}
                  observations={heads.get(i)!.observations}
                  onChoose={() => {
                    const { observations } = heads.get(i)!;
                    void cache.fetchQuery(queries.unsortedIds(studyId, asked(looked))).then((ids) =>
                      onChoose({
                        ...chosen,
                        observations: [...new Set([...chosen.observations, ...ids.filter((id) => !leaving.has(id)).slice(i, i + observations)])],
                      }),
                    );
                  }}
                />
              )}
              <Slip
                id={lassoOf.observation(q.observationId)}
                data={{ observation: q.observationId }}
                label={q.words}
                chosen={chosen.observations.includes(q.observationId)}
                onToggle={(range) => {
                  const from = range ? unsorted.findIndex((u) => u.observationId === last.current) : -1;
                  last.current = q.observationId;
                  const ids = unsorted.slice(Math.min(from, i), Math.max(from, i) + 1).map((u) => u.observationId);
                  onChoose({
                    ...chosen,
                    observations: from < 0 ? toggled(chosen.observations, q.observationId) : [...new Set([...chosen.observations, ...ids])],
                  });
                }}
              >
                <span className="line-clamp-4 font-read text-[14.5px] leading-[1.45]">
                  <QuoteWords quote={q} />
                </span>
                <span className="mt-1.5 flex flex-wrap items-center gap-1.5 text-[11.5px] text-ink-soft">
                  {who(q.participantId)}
                  {q.atMs !== null && `, ${clock(q.atMs)}`}
                  {fresh.has(q.observationId) && <New />}
                  <InHandOf name={others.get(q.observationId)} />
                  {q.starred && <Star aria-label="starred" className="size-3 fill-brass text-brass" />}
                  {q.tagIds.map((id) => (
                    <TagLabel key={id} look={look(id)} />
                  ))}
                </span>
              </Slip>
            </>
          )}
        </LongList>
      )}
      {view === 'tags' && (
        <LongList label="Tags to put in a theme" items={free} keyOf={(use) => use.tag.id} height={58} gap={6} className="min-h-0 flex-1 px-5 pt-0.5 pb-5">
          {(use) => (
            <Slip
              id={lassoOf.tag(use.tag.id)}
              data={{ tag: use.tag.id }}
              label={use.tag.name}
              chosen={chosen.tags.includes(use.tag.id)}
              onToggle={() => onChoose({ ...chosen, tags: toggled(chosen.tags, use.tag.id) })}
            >
              <span className="flex items-center gap-2">
                <TagDot look={look(use.tag.id)} />
                <span className="font-medium">{use.tag.name}</span>
                <span className="ml-auto">
                  <PeopleStrip people={people} breadth={use.breadth} onPick={() => open({ tagId: use.tag.id })} />
                </span>
              </span>
              <span className="mt-0.5 block text-[11.5px] text-ink-soft">
                {count(use.breadth.triple.observations, 'observation')}
                {inThemes.has(use.tag.id) && ', is in a theme'}
              </span>
            </Slip>
          )}
        </LongList>
      )}
    </aside>
  );
}

/** What stands together, how much of it, and a way to choose all of it. */
function GroupName({ name, observations, onChoose }: { name: string; observations: number; onChoose: () => void }) {
  return (
    <h3 className="flex items-baseline gap-2 pt-1.5 pb-1 text-[12.5px] font-semibold">
      <span className="truncate">{name}</span>
      <span className="font-normal text-ink-soft">{observations}</span>
      <button
        type="button"
        aria-label={`Choose all ${observations}: ${name}`}
        className="ml-auto min-h-6 shrink-0 px-1 text-[12px] font-normal text-ink-soft hover:text-ink hover:underline"
        onClick={onChoose}
      >
        choose
      </button>
    </h3>
  );
}

interface SlipProps {
  id: string;
  data: { observation?: number; tag?: number };
  label: string;
  chosen: boolean;
  /** `range`: everything from the one that was chosen last. */
  onToggle: (range: boolean) => void;
  children: ReactNode;
}

/** A slip that can be chosen and dragged. */
function Slip({ id, data, label, chosen, onToggle, children }: SlipProps) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id, data });
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      data-lasso={id}
      // A click chooses; a press that goes on drags.
      onClick={(e) => (e.target as HTMLElement).closest('input, button, a') === null && onToggle(e.shiftKey)}
      className={`relative cursor-grab rounded-std border bg-case py-2 pr-3 pl-8 select-none ${chosen ? 'border-verdigris outline-1 outline-verdigris' : 'border-line'} ${isDragging ? 'opacity-40' : ''}`}
    >
      <input
        type="checkbox"
        aria-label={`Choose “${label.slice(0, 60)}”`}
        checked={chosen}
        onChange={(e) => onToggle((e.nativeEvent as MouseEvent).shiftKey)}
        className="absolute top-2.5 left-2.5 size-4 accent-verdigris"
      />
      {children}
    </div>
  );
}
