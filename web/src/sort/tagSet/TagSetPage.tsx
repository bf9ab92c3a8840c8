import { DndContext, DragOverlay, PointerSensor, pointerWithin, useDroppable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { api, ask } from '@/api/client';
import { inTurn } from '@/api/inTurn';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
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
import { placeBy, type Place } from '@/shared/tagPlaces';
import { FilterLine } from '@/shared/filter/FilterLine';
import { useWhere } from '@/shared/filter/useWhere';
import { usePlaceTags } from '@/shared/usePlaceTags';
import { useKept } from '@/shared/useKept';
import { useTagUses } from '@/shared/useTagUses';
import { aroundTagSet, ofTag, tree, type TreeActs } from './actions';
import { BundleList } from './bundles/BundleList';
import { CodebookFiles } from './CodebookFiles';
import { textOf, type EditedTag } from './edited';
import { outlineOf, placedAt, type Line } from './outline';
import { TagDetail } from './TagDetail';
import { TagForm } from './TagForm';
import { TagGrid } from './TagGrid';
import { TagList } from './TagList';
import { TakeCodebook } from './TakeCodebook';
import { useTagActions } from './useTagActions';
import { TagOutline, type DraggedTag, type OverTag } from './TagOutline';
import { dragsFrom } from '@/parts/dragsFrom';

const areIds = (value: unknown): value is number[] => Array.isArray(value) && value.every((id) => typeof id === 'number');
const isFlag = (value: unknown): value is boolean => typeof value === 'boolean';
const views = [
  ['tree', 'Tree'],
  ['list', 'As a list'],
  ['table', 'As a table'],
  ['bundles', 'Bundles'],
] as const;
const saying = (t: EditedTag) => fold(`${t.name} ${t.definition} ${t.isNot} ${t.aliases.join(' ')}`);
const nobody: readonly never[] = [];
const noIds: number[] = [];

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
  const cache = useQueryClient();
  const waiting = useQuery(queries.tagProposals()).data?.filter((o) => o.outcome === null).length ?? 0;
  const people = useQuery({ ...queries.participants(studyId ?? 0), enabled: studyId !== undefined }).data?.people ?? nobody;
  const [view, setView] = useState<'tree' | 'list' | 'table' | 'bundles'>('tree');
  const [typed, setTyped] = useState('');
  const [closedIds, setClosed] = useKept<number[]>('tag-set-closed', noIds, areIds);
  const [byName, setByName] = useKept('tag-set-by-name', false, isFlag);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [cut, setCut] = useState<ReadonlySet<number>>(new Set());
  const [renaming, setRenaming] = useState<number | null>(null);
  const [taking, setTaking] = useState(false);
  /** What is on its way to the server, as it is shown already. */
  const [moved, setMoved] = useState<readonly { ids: readonly number[]; to: Place }[]>([]);
  const [dragged, setDragged] = useState<EditedTag | null>(null);
  /** Where loose tags go: the line of the frame that was selected last. */
  const [target, setTarget] = useState<number | null>(null);
  const find = useRef<HTMLInputElement>(null);
  const sides = useRef<HTMLDivElement>(null);
  const all = useMemo(() => moved.reduce<readonly EditedTag[]>((now, { ids, to }) => placedAt(now, ids, to), stored), [stored, moved]);
  const tags = useMemo(() => all.filter((t) => !isBundle(t)), [all]);
  const look = useTagLook(all);
  const wanted = fold(typed.trim());
  const { frame, loose } = useMemo(
    () => outlineOf(tags, { closed: new Set(closedIds), byName, fits: wanted === '' ? null : (t) => saying(t).includes(wanted) }),
    [tags, closedIds, byName, wanted],
  );
  const rows = useMemo(() => {
    if (view !== 'table') return nobody;
    const whole = outlineOf(tags, { closed: new Set(), byName, fits: wanted === '' ? null : (t) => saying(t).includes(wanted) });
    return [...whole.frame, ...whole.loose].map((l) => l.tag);
  }, [tags, view, byName, wanted]);
  const bundles = useMemo(() => all.filter(isBundle), [all]);
  const fitting = bundles.filter(
    (b) => wanted === '' || saying(b).includes(wanted) || tags.some((t) => b.members!.includes(t.id) && saying(t).includes(wanted)),
  );
  const focused = typeof opened === 'number' ? all.find((t) => t.id === opened) : undefined;
  // It stays where they go while something is looked for that it does not fit.
  const goal = tags.find((t) => t.id === target);

  const place = usePlaceTags();
  /** Each is asked of what the one before it has left. What is refused is said where all refusals are. */
  const afterThat = (write: () => Promise<unknown>) => inTurn(write).catch(() => undefined);
  const put = (ids: readonly number[], to: Place) => {
    if (ids.length === 0) return;
    const step = { ids, to };
    setMoved((now) => [...now, step]);
    void afterThat(() => place.mutateAsync(step)).then(() => setMoved((now) => now.filter((one) => one !== step)));
  };
  const change = useWrite(({ id, name }: { id: number; name: string }) => {
    const tag = cache.getQueryData(queries.tagSet().queryKey)?.find((t) => t.id === id);
    if (!tag) throw new Error('The tag has gone meanwhile.');
    return ask(api.PUT('/api/tags/{id}', { params: { path: { id } }, body: { text: textOf(tag, { name }), version: tag.version } }));
  });
  const focus = (id: number) => {
    onOpen(id);
    if (frame.some((l) => l.tag.id === id)) setTarget(id);
  };
  /** Lights a tag or bundle where it stands. */
  const light = (id: number) => {
    setView(bundles.some((b) => b.id === id) ? 'bundles' : view === 'list' ? 'list' : 'tree');
    setTyped('');
    focus(id);
  };
  const choose = (id: number) => setChosen(new Set(chosen.has(id) ? [...chosen].filter((one) => one !== id) : [...chosen, id]));
  const toggle = (id: number) => setClosed(closedIds.includes(id) ? closedIds.filter((one) => one !== id) : [...closedIds, id]);
  /** Those that an act means: the chosen ones in their order, or the one that is selected. */
  const meant = (lines: readonly Line<EditedTag>[]) =>
    chosen.size > 0
      ? lines.filter((l) => chosen.has(l.tag.id)).map((l) => l.tag.id)
      : focused && lines.some((l) => l.tag.id === focused.id)
        ? [focused.id]
        : [];
  const several = all.filter((t) => chosen.has(t.id));
  const { acts, dialogs, ...can } = useTagActions({
    // In the list tags are chosen without being lit.
    tag: focused ?? several[0],
    chosen: several,
    tags: all,
    studyId,
    onDone: () => setChosen(new Set()),
  });
  /** From the pile under the line of the frame that was selected last, or from the frame to the pile; the next line is selected. */
  const toOtherSide = (lines: readonly Line<EditedTag>[], isLoose: boolean) => {
    const ids = meant(lines);
    if (ids.length === 0) return;
    if (isLoose && !goal) return void toast('Select the tag in the frame under which it is to go first.');
    const at = lines.findIndex((l) => l.tag.id === ids[0]);
    const next = [...lines.slice(at), ...lines.slice(0, at).toReversed()].find((l) => !ids.includes(l.tag.id));
    put(ids, { parentId: isLoose ? goal!.id : null, beforeTagId: null });
    setChosen(new Set());
    onOpen(next?.tag.id);
  };
  /** What keys do with the selected one of some lines. */
  const treeActs = (lines: readonly Line<EditedTag>[], isLoose: boolean): TreeActs => {
    const at = lines.findIndex((l) => l.tag.id === focused?.id);
    const line = lines[at];
    const go = (to: number, chooses = false) => {
      const next = lines[Math.max(0, Math.min(lines.length - 1, to))];
      if (!next) return;
      if (chooses && line) setChosen(new Set([...chosen, line.tag.id, next.tag.id]));
      focus(next.tag.id);
    };
    const withLine = (act: (line: Line<EditedTag>) => void) => () => {
      if (line) act(line);
      return line !== undefined;
    };
    return {
      go: (by, chooses) => go(by === 'first' ? 0 : by === 'last' ? lines.length - 1 : at < 0 ? 0 : at + by, chooses),
      unfold: withLine((one) => (one.children > 0 && !one.open ? toggle(one.tag.id) : go(at + (one.children > 0 ? 1 : 0)))),
      fold: withLine((one) => (one.children > 0 && one.open && wanted === '' ? toggle(one.tag.id) : go(lines.findIndex((l) => l.tag.id === one.tag.parentId)))),
      place: (key) => {
        if (!line) return false;
        const upOrDown = key === 'ArrowUp' || key === 'ArrowDown';
        if (byName && upOrDown) toast('They are in order from A to Z now. Order by hand to move them up and down.');
        const to =
          byName && upOrDown
            ? null
            : placeBy(
                lines.map((l) => l.tag),
                line.tag.id,
                key,
              );
        if (to) put([line.tag.id], to);
        return true;
      },
      otherSide: () => toOtherSide(lines, isLoose),
      cut: () => setCut(new Set(meant(lines))),
      paste: () => {
        if (cut.size === 0 || !line) return false;
        put([...cut], { parentId: line.tag.id, beforeTagId: null });
        setCut(new Set());
        setChosen(new Set());
        return true;
      },
      choose: withLine((one) => choose(one.tag.id)),
      rename: withLine((one) => setRenaming(one.tag.id)),
      define: withLine(can.define),
    };
  };
  useRowActions(tree);
  const chooseNone = () => {
    setChosen(new Set());
    setCut(new Set());
  };
  usePageActions(aroundTagSet, { find: () => find.current?.focus(), none: chosen.size + cut.size > 0 ? chooseNone : null });
  const sensors = useSensors(useSensor(PointerSensor, dragsFrom));
  // What is dropped with Shift is merged, not put under.
  const merges = useShiftHeld();
  const drop = (event: DragEndEvent) => {
    setDragged(null);
    const over = (event.over?.data.current as { over: OverTag } | undefined)?.over;
    const { tagId } = event.active.data.current as DraggedTag;
    if (!over || (over !== 'loose' && over.tagId === tagId)) return;
    const ids = chosen.has(tagId) ? meant([...frame, ...loose]) : [tagId];
    const onto = over === 'loose' ? undefined : tags.find((t) => t.id === over.tagId);
    if (onto && ids.includes(onto.id)) return;
    if (onto && merges.current) return can.merge([onto.id, ...ids]);
    put(
      ids,
      !onto
        ? { parentId: null, beforeTagId: null }
        : over !== 'loose' && over.before
          ? { parentId: onto.parentId, beforeTagId: onto.id }
          : { parentId: onto.id, beforeTagId: null },
    );
    setChosen(new Set());
  };
  const rename = (tag: EditedTag, name: string | null) => {
    setRenaming(null);
    sides.current?.querySelector<HTMLElement>(`[role="tree"]:has(#line-${tag.id})`)?.focus();
    if (name !== null && name.trim() !== '' && name !== tag.name) void afterThat(() => change.mutateAsync({ id: tag.id, name }));
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
      onFocus={focus}
      onChoose={choose}
      onRename={rename}
      onToggle={toggle}
      onOpen={can.define}
      onKeyDown={(e) => pressed(tree, treeActs(lines, isLoose), e)}
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
              if (first) focus(first.tag.id);
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
              onFocus={focus}
              onOpen={can.define}
              figures={figures(false)}
              some={bundles.length > 0}
            />
          ) : tags.length === 0 ? (
            <Empty title="No tags yet" sample="“learnt on the quay: news of a change reached the person after they had come to the quay”">
              Tags are made here, or while reading. A tag with a definition is used the same way by everyone.
            </Empty>
          ) : view === 'table' ? (
            <TagGrid tags={rows} all={tags} onFocus={light} />
          ) : view === 'list' ? (
            <TagList
              {...{ look, chosen }}
              tags={wanted === '' ? tags : [...frame, ...loose].map((l) => l.tag)}
              focused={focused?.id ?? null}
              onFocus={focus}
              onOpen={(id) => {
                focus(id);
                can.define();
              }}
              onChoose={choose}
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
