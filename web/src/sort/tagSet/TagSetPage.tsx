import { DndContext, DragOverlay, PointerSensor, pointerWithin, useDroppable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { queries } from '@/api/queries';
import { isBundle } from '@/parts/bundles';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { fold } from '@/parts/findTags';
import { grid } from '@/parts/gridActions';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { pressed } from '@/parts/actions/actions';
import { ActionKey } from '@/parts/actions/ActionButton';
import { ActionHints } from '@/parts/actions/ActionHints';
import { usePageActions, useRowActions } from '@/parts/actions/registry';
import { useShiftHeld } from '@/parts/useShiftHeld';
import { useTagLook } from '@/parts/useTagLook';
import { count } from '@/parts/words';
import { FilterLine } from '@/shared/filter/FilterLine';
import { useWhere } from '@/shared/filter/useWhere';
import { useTagUses } from '@/shared/useTagUses';
import { aroundTagSet, ofTag, tree } from './actions';
import { BundleList } from './bundles/BundleList';
import { CodebookFiles } from './CodebookFiles';
import type { EditedTag } from './edited';
import type { Line } from './outline';
import { TagDetail } from './TagDetail';
import { TagForm } from './TagForm';
import { TagGrid } from './TagGrid';
import { TagList } from './TagList';
import { TakeCodebook } from './TakeCodebook';
import { useTagActions } from './useTagActions';
import { saying, useTagTree } from './useTagTree';
import { TagOutline, type DraggedTag, type OverTag } from './TagOutline';
import { dragsFrom } from '@/parts/dragsFrom';

const views = [
  ['tree', 'Tree'],
  ['list', 'As a list'],
  ['table', 'As a table'],
  ['bundles', 'Bundles'],
] as const;
const nobody: readonly never[] = [];

/** The shared vocabulary of the workspace, with the tags that the studies one sees have made. */
export function TagSetPage() {
  const { data: tags, error } = useQuery(queries.tagSet());
  const { tag } = useSearch({ from: '/team/tags' });
  const navigate = useNavigate();
  if (!tags) return <Waiting problem={error} />;
  return (
    <main className="h-full border-t border-line">
      <TagSet
        tags={tags}
        studyId={undefined}
        opened={tag}
        onOpen={(next) => void navigate({ to: '/tags', search: next === undefined ? {} : { tag: next }, replace: true, resetScroll: false })}
      />
    </main>
  );
}

/** The tag set of one study: the shared set and its own tags, with how broad they are in it. */
export function StudyTagSetPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId/sort/tags' });
  const { tag } = useSearch({ from: '/team/studies/$studyId/sort/tags' });
  const navigate = useNavigate();
  const { data: all, error } = useQuery(queries.tagSet());
  const { where, setWhere } = useWhere();
  const { tags: uses, error: problem } = useTagUses(studyId, where);
  const tags = useMemo(() => {
    if (!all || !uses) return undefined;
    const breadthOf = new Map(uses.map((u) => [u.tag.id, u.breadth]));
    return all.flatMap((t) => {
      const breadth = breadthOf.get(t.id);
      return breadth ? [{ ...t, breadth }] : [];
    });
  }, [all, uses]);
  if (!tags) return <Waiting problem={error ?? problem} />;
  return (
    <TagSet
      tags={tags}
      studyId={studyId}
      filter={
        <FilterLine studyId={studyId} where={where} onWhere={setWhere}>
          <span>Observations</span>
        </FilterLine>
      }
      opened={tag}
      onOpen={(next) =>
        void navigate({
          to: '/studies/$studyId/sort/tags',
          params: { studyId },
          search: (before) => ({ ...before, tag: next }),
          replace: true,
          resetScroll: false,
        })
      }
    />
  );
}

function ThenAndNow({ studyId }: { studyId: number | undefined }) {
  const looks = 'min-h-8 content-center text-ink-soft hover:text-ink';
  if (studyId === undefined)
    return (
      <Link to="/tags/history" className={looks}>
        History of the tag set
      </Link>
    );
  return (
    <Link to="/studies/$studyId/sort/tags/history" params={{ studyId }} className={looks}>
      History of the tag set
    </Link>
  );
}

/** Where tags are dropped to be open and alone again. */
function LoosePlace({ children }: { children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: 'loose', data: { over: 'loose' satisfies OverTag } });
  return (
    <section ref={setNodeRef} aria-label="Loose pile" className={`flex min-h-0 flex-col border-l border-dashed border-brass px-4 ${isOver ? 'bg-wash' : ''}`}>
      {children}
    </section>
  );
}

interface Props {
  tags: readonly EditedTag[];
  /** The study whose tag set it is; undefined for the workspace's. */
  studyId: number | undefined;
  /** Under which conditions its tags are counted. */
  filter?: ReactNode;
  opened: number | 'new' | undefined;
  onOpen: (tag: number | 'new' | undefined) => void;
}

function TagSet({ tags: stored, studyId, filter, opened, onOpen }: Props) {
  const waiting = useQuery(queries.tagProposals()).data?.filter((o) => o.outcome === null).length ?? 0;
  const people = useQuery({ ...queries.participants(studyId ?? 0), enabled: studyId !== undefined }).data?.people ?? nobody;
  const [view, setView] = useState<'tree' | 'list' | 'table' | 'bundles'>('tree');
  const [typed, setTyped] = useState('');
  const [taking, setTaking] = useState(false);
  const [dragged, setDragged] = useState<EditedTag | null>(null);
  const find = useRef<HTMLInputElement>(null);
  const sides = useRef<HTMLDivElement>(null);
  const wanted = fold(typed.trim());
  const { all, tags, frame, loose, whole, focused, goal, byName, setByName, chosen, cut, renaming, ...edits } = useTagTree({
    stored,
    wanted,
    opened,
    onOpen,
    onBack: (id) => sides.current?.querySelector<HTMLElement>(`[role="tree"]:has(#line-${id})`)?.focus(),
  });
  const look = useTagLook(all);
  const bundles = useMemo(() => all.filter(isBundle), [all]);
  const fitting = bundles.filter(
    (b) => wanted === '' || saying(b).includes(wanted) || tags.some((t) => b.members!.includes(t.id) && saying(t).includes(wanted)),
  );
  /** Lights a tag or bundle where it stands. */
  const light = (id: number) => {
    setView(bundles.some((b) => b.id === id) ? 'bundles' : view === 'list' ? 'list' : 'tree');
    setTyped('');
    edits.focus(id);
  };
  const several = all.filter((t) => chosen.has(t.id));
  const { acts, dialogs, ...can } = useTagActions({
    // In the list tags are chosen without being lit.
    tag: focused ?? several[0],
    chosen: several,
    tags: all,
    studyId,
    onDone: edits.chooseNone,
  });
  useRowActions(tree);
  usePageActions(aroundTagSet, { find: () => find.current?.focus(), none: chosen.size + cut.size > 0 ? edits.chooseNone : null });
  const sensors = useSensors(useSensor(PointerSensor, dragsFrom));
  // What is dropped with Shift is merged, not put under.
  const merges = useShiftHeld();
  const drop = (event: DragEndEvent) => {
    setDragged(null);
    const over = (event.over?.data.current as { over: OverTag } | undefined)?.over;
    const { tagId } = event.active.data.current as DraggedTag;
    if (!over || (over !== 'loose' && over.tagId === tagId)) return;
    const ids = chosen.has(tagId) ? edits.meant([...frame, ...loose]) : [tagId];
    const onto = over === 'loose' ? undefined : tags.find((t) => t.id === over.tagId);
    if (onto && ids.includes(onto.id)) return;
    if (onto && merges.current) return can.merge([onto.id, ...ids]);
    edits.put(
      ids,
      !onto
        ? { parentId: null, beforeTagId: null }
        : over !== 'loose' && over.before
          ? { parentId: onto.parentId, beforeTagId: onto.id }
          : { parentId: onto.id, beforeTagId: null },
    );
    edits.chooseNone();
  };
  const figures = (isLoose: boolean) => (tag: EditedTag) =>
    tag.breadth && !isLoose ? (
      <span className="flex shrink-0 items-center gap-2.5 text-[12px] text-ink-soft tabular-nums">
        {tag.breadth.triple.observations > 0 && <PeopleStrip people={people} breadth={tag.breadth} />}
        <span className="w-7 text-right text-[13px] text-ink">{tag.breadth.triple.observations || '·'}</span>
      </span>
    ) : (
      <span className="w-9 shrink-0 text-right text-[13px] tabular-nums">{(tag.breadth?.triple.observations ?? tag.observations) || '·'}</span>
    );
  const outline = (label: string, lines: Line<EditedTag>[], isLoose: boolean) => (
    <TagOutline
      {...{ label, lines, look, chosen, cut, renaming }}
      figures={figures(isLoose)}
      flat={isLoose}
      focused={focused?.id ?? null}
      onFocus={edits.focus}
      onChoose={edits.choose}
      onRename={edits.rename}
      onToggle={edits.toggle}
      onOpen={can.define}
      onKeyDown={(e) => pressed(tree, edits.actsOf(lines, isLoose, can.define), e)}
      className="min-h-0 flex-1 pb-6"
    />
  );
  const { define, merge, split, bundle, retire } = ofTag.actions;
  const { actions } = tree;
  const ofTree = [actions.move, actions.under, actions.out, actions.otherSide, actions.rename, actions.choose, actions.cut];
  const hints =
    view === 'table'
      ? [grid.actions.paste, grid.actions.edit, grid.actions.writeAll, grid.actions.fillDown, grid.actions.empty]
      : [...(view === 'tree' ? ofTree : []), define, merge, bundle, retire, ...(studyId === undefined ? [] : [split])];
  const looksLike = (on: boolean) => `min-h-8 ${on ? 'border-b-2 border-verdigris font-semibold' : 'text-ink-soft hover:text-ink'}`;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={(event) => setDragged(tags.find((t) => t.id === (event.active.data.current as DraggedTag).tagId) ?? null)}
      onDragEnd={drop}
      onDragCancel={() => setDragged(null)}
    >
      <div className={`grid h-full grid-rows-[minmax(0,1fr)_auto] ${view === 'table' ? 'grid-cols-1' : 'grid-cols-[minmax(0,1fr)_380px]'}`}>
        <div className="flex min-h-0 flex-col px-5 pt-4">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-0.5 text-[13.5px] whitespace-nowrap">
            <h1 className={studyId === undefined ? 'font-read text-[22px] font-semibold' : 'sr-only'}>Tag set</h1>
            {views.map(([one, label]) => (
              <button key={one} type="button" aria-pressed={view === one} className={looksLike(view === one)} onClick={() => setView(one)}>
                {label}
                {one === 'bundles' && bundles.length > 0 && ` ${bundles.length}`}
              </button>
            ))}
            {studyId === undefined ? (
              <Link to="/tags/look-alikes" className="min-h-8 content-center text-ink-soft hover:text-ink">
                Look-alikes
              </Link>
            ) : (
              <Link to="/studies/$studyId/sort/tags/look-alikes" params={{ studyId }} className="min-h-8 content-center text-ink-soft hover:text-ink">
                Look-alikes
              </Link>
            )}
            <ThenAndNow studyId={studyId} />
            <Link to="/tags/proposals" className="min-h-8 content-center text-ink-soft hover:text-ink">
              Proposals{waiting > 0 && ` ${waiting}`}
            </Link>
            <span className="ml-auto flex items-center gap-4 text-[12.5px] text-ink-soft">
              {studyId !== undefined && <CodebookFiles studyId={studyId} />}
              <button type="button" className="min-h-6 underline decoration-dotted underline-offset-4 hover:text-ink" onClick={() => setTaking(true)}>
                import
              </button>
              {view === 'tree' && (
                <button type="button" className="min-h-6 hover:text-ink" aria-pressed={byName} onClick={() => setByName(!byName)}>
                  {byName ? 'A to Z' : 'ordered by hand'}
                </button>
              )}
              <Button look="main" onClick={() => onOpen('new')}>
                New tag
              </Button>
            </span>
          </div>
          <input
            ref={find}
            aria-label="Find a tag"
            placeholder="Find a tag"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Escape') setTyped('');
              if (e.key !== 'ArrowDown' && e.key !== 'Enter') return;
              e.preventDefault();
              const first = frame.find((l) => fold(l.tag.name).includes(wanted)) ?? frame[0] ?? loose[0];
              if (first) edits.focus(first.tag.id);
              sides.current?.querySelector<HTMLElement>(frame.length > 0 ? '[role="tree"]' : 'section [role="tree"]')?.focus();
            }}
            className="my-2 w-full rounded-std border border-line bg-case px-3 py-1.5 placeholder:text-ink-soft"
          />
          {filter}
          {view === 'bundles' ? (
            <BundleList
              {...{ look, tags }}
              bundles={fitting}
              focused={focused?.id ?? null}
              onFocus={edits.focus}
              onOpen={can.define}
              figures={figures(false)}
              some={bundles.length > 0}
            />
          ) : tags.length === 0 ? (
            <Empty title="No tags yet" sample="“learnt on the quay: news of a change reached the person after they had come to the quay”">
              Tags are made here, or while reading. A tag with a definition is used the same way by everyone.
            </Empty>
          ) : view === 'table' ? (
            <TagGrid tags={whole} all={tags} onFocus={light} />
          ) : view === 'list' ? (
            <TagList
              {...{ look, chosen }}
              tags={wanted === '' ? tags : [...frame, ...loose].map((l) => l.tag)}
              focused={focused?.id ?? null}
              onFocus={edits.focus}
              onOpen={(id) => {
                edits.focus(id);
                can.define();
              }}
              onChoose={edits.choose}
              broad={studyId !== undefined}
            />
          ) : (
            <div ref={sides} className={`grid min-h-0 flex-1 ${loose.length > 0 ? 'grid-cols-[minmax(0,1fr)_minmax(0,260px)] gap-x-4' : 'grid-cols-1'}`}>
              <div className="flex min-h-0 flex-col border-t border-line">{outline('Frame', frame, false)}</div>
              {loose.length > 0 && (
                <LoosePlace>
                  <h2 className="text-[13px] font-semibold text-brass">Loose pile, {loose.length}</h2>
                  <p className="mb-1 text-[12px] text-ink-soft">
                    <ActionKey of={tree.actions.otherSide} /> puts one {goal ? `under “${goal.name}”` : 'under the selected tag of the frame'}, and back.
                  </p>
                  {outline('Loose tags', loose, true)}
                </LoosePlace>
              )}
            </div>
          )}
        </div>
        {view !== 'table' && (
          <aside aria-label="The selected tag" className="overflow-y-auto border-l border-line bg-case px-6 py-6">
            {focused ? (
              acts && <TagDetail tag={focused} tags={all} studyId={studyId} people={people} acts={acts} onFocus={light} />
            ) : (
              <p className="text-ink-soft">Select a tag to see what it means and who speaks under it.</p>
            )}
          </aside>
        )}
        <p className="col-span-full flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-5 py-1.5 text-[12px] text-ink-soft">
          {chosen.size > 0 && <span className="font-medium text-ink">{count(chosen.size, 'tag')} chosen</span>}
          {cut.size > 0 && <span className="font-medium text-ink">{count(cut.size, 'tag')} cut: Ctrl V puts them under the selected tag</span>}
          <ActionHints of={hints} />
        </p>
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <span className="rounded-std border border-verdigris bg-case px-2 py-1 text-[13px] shadow-float">
            {chosen.has(dragged.id) && chosen.size > 1 ? count(chosen.size, 'tag') : dragged.name} <span className="text-ink-soft">Shift merges</span>
          </span>
        )}
      </DragOverlay>
      {taking && <TakeCodebook studyId={studyId} onClose={() => setTaking(false)} />}
      {dialogs}
      {opened === 'new' && <TagForm tag={null} tags={all} onClose={() => onOpen(undefined)} />}
    </DndContext>
  );
}
