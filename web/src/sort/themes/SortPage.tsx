import { FilterLine } from '@/shared/filter/FilterLine';
import { asQuery } from '@/shared/filter/where';
import { useWhere } from '@/shared/filter/useWhere';
import { useTagUses } from '@/shared/useTagUses';
import { DndContext, DragOverlay, PointerSensor, pointerWithin, useDndContext, useDroppable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { api, ask, oneStep, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { moment } from '@/parts/words';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { PickByTitle } from '@/parts/PickByTitle';
import { MakeInsight } from '@/shared/MakeInsight';
import { whoIs } from '@/parts/QuoteItem';
import { useTagLook } from '@/parts/useTagLook';
import { usePageActions } from '@/parts/actions/registry';
import { sorting, theme, type SortingActs } from './actions';
import { claimOf } from '@/shared/claim';
import { MergeThemes } from './MergeThemes';
import { New } from './New';
import { inTree, placeOf } from './place';
import { SortingViews } from './SortingViews';
import { useFolded } from './useFolded';
import { usePieces } from './usePieces';
import { useInHand } from '@/shared/inHand';
import { putInTheme } from '@/shared/putInTheme';
import { ActionButton } from '@/parts/actions/ActionButton';
import { holds, isEmpty, nothing, observationsOf, said, toggledPiece, withTouched, type Chosen, type PieceIn } from './chosen';
import { Lasso } from './Lasso';
import { ThemeCard } from './ThemeCard';
import { ThemeForm } from './ThemeForm';
import { AskForSuggestions } from '@/sort/suggestions/AskForSuggestions';
import { CodebookFiles } from '@/sort/tagSet/CodebookFiles';
import { UnsortedShelf, type ShelfView } from './UnsortedShelf';
import { dragsFrom } from '@/parts/dragsFrom';

/** The third room, the sorting table: what is unsorted on the left, themes with room to spread. */
export function SortPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { where, setWhere } = useWhere();
  const { data: table, error } = useQuery({ ...queries.sorting(studyId, asQuery(where)), placeholderData: keepPreviousData });
  const { tags } = useTagUses(studyId);
  const counted = useTagUses(studyId, where).tags;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const look = useTagLook(tags?.map((t) => t.tag));
  const [chosen, setChosen] = useState<Chosen>(nothing);
  const [dragged, setDragged] = useState<Chosen | { theme: number } | null>(null);
  const [putting, setPutting] = useState<'put' | 'move' | null>(null);
  const [claiming, setClaiming] = useState<number | null>(null);
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set());
  const before = useRef(nothing);
  const [leaving, setLeaving] = useState<ReadonlySet<number>>(new Set());
  const [making, setMaking] = useState<{ with: Chosen; under: number | null } | null>(null);
  const [insightOf, setInsightOf] = useState<number[] | null>(null);
  const navigate = useNavigate();
  const cache = useQueryClient();
  const sensors = useSensors(useSensor(PointerSensor, dragsFrom));
  const putIntoTheme = useWrite(({ themeId, what, moves }: { themeId: number; what: Chosen; moves: boolean }) =>
    putInTheme(themeId, { observationIds: observationsOf(what), tagIds: what.tags, ...(moves && { from: what.pieces }) }),
  );
  const makeOf = useWrite(async (what: Chosen) => {
    const together = oneStep();
    const body = { title: '', description: '', parentId: null, observationIds: what.observations, tagIds: what.tags };
    const made = await ask(api.POST('/api/studies/{studyId}/themes', { params: { path: { studyId } }, headers: together, body }));
    setClaiming(made.id);
    if (what.pieces.length === 0) return made;
    const moved = await putInTheme(made.id!, { observationIds: what.pieces.map((p) => p.observationId), from: what.pieces }, together);
    // Both have changed something: all is fetched again.
    return { ...moved, changed: null };
  });
  const leaveOut = useWrite((given: { observationIds: number[]; leftOut: boolean }) =>
    ask(api.PUT('/api/studies/{studyId}/left-out', { params: { path: { studyId } }, body: given })),
  );
  const move = useWrite((given: { id: number; parentId: number | null; beforeId: number | null }) =>
    ask(api.PUT('/api/themes/{id}/place', { params: { path: { id: given.id } }, body: { parentId: given.parentId, beforeId: given.beforeId } })),
  );
  const pieces = usePieces();
  const all = useRef(() => Promise.resolve(nothing));
  const [asking, setAsking] = useState(false);
  const [shelf, setShelf] = useState<ShelfView>('observations');
  const [at, setAt] = useState<number | null>(null);
  const { folded, fold } = useFolded(studyId);
  // The theme as it was: it has gone before the dialog is told that it was merged.
  const [merging, setMerging] = useState<Schemas['ThemeHead'] | null>(null);
  const any = !isEmpty(chosen);
  useInHand(observationsOf(dragged && 'tags' in dragged ? dragged : chosen));

  const { theme: pointed } = useSearch({ from: '/team/studies/$studyId/sort' });
  const ready = table !== undefined && tags !== undefined && people !== undefined;
  useEffect(() => {
    if (pointed !== undefined && ready) document.getElementById(`theme-${pointed}`)?.focus();
  }, [pointed, ready]);
  const themes = table?.themes.map((t) => t.theme) ?? [];
  // What a sub-theme has got stands in the one above it too.
  const fresh = (table?.newUnsorted ?? 0) + (table?.themes ?? []).filter((t) => t.theme.parentId === null).reduce((sum, t) => sum + t.newSince, 0);
  const never = table?.lookedAt === null;
  const seen = useMutation({
    mutationFn: () => ask(api.PUT('/api/studies/{studyId}/sorting/looked', { params: { path: { studyId } } })),
    onSuccess: () => Promise.all(['sorting', 'unsorted'].map((of) => cache.invalidateQueries({ queryKey: [of, studyId] }))),
  });
  const { mutate: note } = seen;
  useEffect(() => {
    if (never) note();
  }, [never, note]);
  // What is on its way off the shelf is gone from there at once; where it is refused, it lies there again.
  const sent = (observationIds: readonly number[], writing: Promise<unknown>) => {
    setLeaving((all) => new Set([...all, ...observationIds]));
    void writing.catch(() => undefined).then(() => setLeaving((all) => new Set([...all].filter((id) => !observationIds.includes(id)))));
  };
  const keepOut = () => {
    sent(chosen.observations, leaveOut.mutateAsync({ observationIds: chosen.observations, leftOut: shelf !== 'leftOut' }));
    setChosen(nothing);
  };
  const acts: SortingActs = {
    any,
    observations: chosen.observations.length > 0,
    all: () => void all.current().then(setChosen),
    put: () => setPutting('put'),
    move: chosen.pieces.length > 0 ? () => setPutting('move') : null,
    make: () => setMaking({ with: chosen, under: null }),
    leaveOut: keepOut,
    suggest: () => setAsking(true),
    seen: fresh > 0 ? () => seen.mutate() : null,
    none: () => setChosen(nothing),
  };
  usePageActions(sorting, acts);
  usePageActions(
    theme,
    at === null
      ? null
      : {
          open: () => void navigate({ to: '/studies/$studyId/sort/themes/$themeId', params: { studyId, themeId: at } }),
          sub: () => setMaking({ with: nothing, under: at }),
          merge: () => setMerging(themes.find((t) => t.id === at) ?? null),
          move: (where) => {
            const place = placeOf(themes, at, where);
            if (place) move.mutate({ id: at, ...place });
          },
        },
  );

  if (!table || !tags || !people) return <Waiting problem={error} />;
  const put = (themeId: number, given: Chosen, moves: boolean) => {
    // A piece that is dropped where it lies is left as it is: a tag may have brought it.
    const what = { ...given, pieces: given.pieces.filter((p) => p.themeId !== themeId) };
    if (!isEmpty(what)) sent(what.observations, putIntoTheme.mutateAsync({ themeId, what, moves }));
    setChosen(nothing);
  };
  const drop = (event: DragEndEvent) => {
    const what = dragged;
    setDragged(null);
    if (!what || !event.over) return;
    const onGround = event.over.id === 'ground';
    if ('theme' in what) {
      if (onGround) return;
      const onto = String(event.over.id);
      const beforeId = onto.startsWith('before') ? Number(onto.slice('before'.length)) : null;
      const parentId = beforeId !== null ? (themes.find((t) => t.id === beforeId)?.parentId ?? null) : onto === 'new' ? null : Number(onto);
      if (beforeId !== what.theme && parentId !== what.theme) move.mutate({ id: what.theme, parentId, beforeId });
      return;
    }
    if (onGround || event.over.id === 'new') sent(what.observations, makeOf.mutateAsync(what));
    else put(Number(event.over.id), what, true);
    setChosen(nothing);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => {
        const one = active.data.current as { observation?: number; tag?: number; theme?: number; piece?: PieceIn };
        if (one.theme !== undefined) return setDragged({ theme: one.theme });
        const alone: Chosen = {
          observations: one.observation === undefined ? [] : [one.observation],
          tags: one.tag === undefined ? [] : [one.tag],
          pieces: one.piece === undefined ? [] : [one.piece],
        };
        const isChosen =
          alone.observations.some((id) => chosen.observations.includes(id)) ||
          alone.tags.some((id) => chosen.tags.includes(id)) ||
          alone.pieces.some((piece) => holds(chosen, piece));
        setDragged(isChosen ? chosen : alone);
      }}
      onDragCancel={() => setDragged(null)}
      onDragEnd={drop}
    >
      <Lasso
        className="grid h-full grid-cols-[300px_minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)]"
        onBegin={() => (before.current = chosen)}
        onTouch={(touched, adds) => setChosen(withTouched(adds ? before.current : nothing, touched))}
      >
        <div className="col-span-2 border-b border-line px-5 py-1.5">
          <FilterLine studyId={studyId} where={where} onWhere={setWhere}>
            <span>Counted: observations</span>
          </FilterLine>
        </div>
        <UnsortedShelf
          studyId={studyId}
          table={table}
          tags={counted ?? tags}
          people={people}
          look={look}
          chosen={chosen}
          onChoose={setChosen}
          view={shelf}
          onView={setShelf}
          allRef={all}
          leaving={leaving}
        />
        <Ground>
          <div className="mb-3 flex min-h-8 flex-wrap items-center gap-2 whitespace-nowrap">
            {dragged ? (
              <NewThemePlace of={'theme' in dragged ? 'theme' : 'pieces'} />
            ) : any ? (
              <>
                <span className="font-medium">{said(chosen)} chosen</span>
                <Button look="main" onClick={() => setPutting('put')}>
                  Put in theme
                </Button>
                <Button onClick={() => setMaking({ with: chosen, under: null })}>New theme of these</Button>
                {chosen.pieces.length > 0 && <ActionButton action={sorting.actions.move} on={acts} />}
                {observationsOf(chosen).length > 0 && <Button onClick={() => setInsightOf(observationsOf(chosen))}>Make an insight</Button>}
                {chosen.observations.length > 0 && (
                  <ActionButton action={sorting.actions.leaveOut} on={acts}>
                    {shelf === 'leftOut' ? 'Take back' : 'Leave out'}
                  </ActionButton>
                )}
                <ActionButton action={sorting.actions.suggest} on={acts} look="quiet" />
                <Button look="quiet" onClick={() => setChosen(nothing)}>
                  Choose nothing
                </Button>
              </>
            ) : (
              <>
                <SortingViews studyId={studyId} at="table" />
                {fresh > 0 ? (
                  <span className="ml-3 text-[12.5px]">
                    <New many={fresh} /> <span className="text-ink-soft">since {moment(table.lookedAt!)}</span>
                    <ActionButton action={sorting.actions.seen} on={acts} look="quiet" className="ml-1" />
                  </span>
                ) : (
                  <span className="ml-3 text-[12.5px] text-ink-soft max-[1200px]:hidden">
                    {table.themes.length > 0 && 'Drag onto a theme, or choose with Space and press t.'}
                  </span>
                )}
                <span className="ml-auto flex items-center gap-4 text-[12.5px] text-ink-soft">
                  <Link to="/studies/$studyId/sort/tags" params={{ studyId }} className="min-h-6 underline decoration-dotted underline-offset-4 hover:text-ink">
                    tag set
                  </Link>
                  <CodebookFiles studyId={studyId} />
                </span>
                <ActionButton action={sorting.actions.suggest} on={acts} look="quiet" />
                <Button onClick={() => setMaking({ with: nothing, under: null })}>New theme</Button>
              </>
            )}
          </div>
          {table.themes.length === 0 && !dragged && (
            <Empty
              title="No theme yet"
              sample="“People learn of a cancelled sailing when it is too late to act.”"
              action={
                <Button look="main" onClick={() => setMaking({ with: chosen, under: null })}>
                  Make the first theme
                </Button>
              }
            >
              A theme is a claim that its observations make together, with a sentence that says what it means. Drag observations or whole tags into it.
            </Empty>
          )}
          <div className="columns-2 gap-4">
            {table.themes
              .filter((t) => t.theme.parentId === null)
              .map((view) => (
                <ThemeCard
                  key={view.theme.id}
                  {...{ studyId, view, people, look, folded, pieces, chosen, opened, claiming }}
                  onChoose={(piece) => setChosen(toggledPiece(chosen, piece))}
                  onOpen={(id) => setOpened(new Set(opened.has(id) ? [...opened].filter((o) => o !== id) : [...opened, id]))}
                  onClaimed={() => setClaiming(null)}
                  all={table.themes}
                  who={whoIs(people)}
                  dragging={dragged === null ? null : 'theme' in dragged ? 'theme' : 'pieces'}
                  onFold={fold}
                  onSub={(under) => setMaking({ with: nothing, under })}
                  onFocus={setAt}
                />
              ))}
          </div>
        </Ground>
      </Lasso>
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <div className="w-max rounded-std border border-verdigris bg-case px-3 py-2 font-medium shadow-float">
            {'theme' in dragged ? claimOf(themes.find((t) => t.id === dragged.theme)!) : said(dragged)}
          </div>
        )}
      </DragOverlay>
      {putting && (
        <PickByTitle
          title={`${putting === 'move' ? 'Move' : 'Put'} ${said(chosen)} ${putting === 'move' ? 'to' : 'in'} a theme`}
          label="Theme"
          items={inTree(themes).map(({ theme: one }) => ({ id: String(one.id), title: claimOf(one), pick: () => put(one.id, chosen, putting === 'move') }))}
          none="No theme is called that. Make a new one of what is chosen instead."
          onClose={() => setPutting(null)}
        />
      )}
      {making && (
        <ThemeForm
          studyId={studyId}
          contents={making.with}
          under={making.under}
          onClose={() => setMaking(null)}
          onMade={() => {
            setMaking(null);
            setChosen(nothing);
          }}
        />
      )}
      {merging && (
        <MergeThemes
          from={merging}
          themes={themes}
          onClose={() => setMerging(null)}
          onMerged={(into) => {
            setMerging(null);
            document.getElementById(`theme-${into}`)?.focus();
          }}
        />
      )}
      {asking && <AskForSuggestions studyId={studyId} chosen={chosen} onClose={() => setAsking(false)} />}
      {insightOf && (
        <MakeInsight
          studyId={studyId}
          observationIds={insightOf}
          onClose={() => setInsightOf(null)}
          onMade={(insightId) => void navigate({ to: '/studies/$studyId/show/$insightId', params: { studyId, insightId } })}
        />
      )}
    </DndContext>
  );
}

/** The room around the themes: what is dropped on it makes a new one. */
function Ground({ children }: { children: ReactNode }) {
  const { setNodeRef } = useDroppable({ id: 'ground' });
  return (
    <div ref={setNodeRef} className="overflow-y-auto px-5 py-4">
      {children}
    </div>
  );
}

function NewThemePlace({ of }: { of: 'theme' | 'pieces' }) {
  const { setNodeRef } = useDroppable({ id: 'new' });
  const { over } = useDndContext();
  const isOver = over?.id === 'new' || (of === 'pieces' && over?.id === 'ground');
  return (
    <div
      ref={setNodeRef}
      className={`flex min-h-8 flex-1 items-center justify-center rounded-std border border-dashed text-ink-soft ${isOver ? 'border-verdigris bg-wash' : 'border-line'}`}
    >
      {of === 'theme' ? 'Drop here to set it beside the others, last' : 'Drop here, or on any empty room, for a new theme'}
    </div>
  );
}
