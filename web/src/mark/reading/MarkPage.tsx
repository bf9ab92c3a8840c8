import { useTagUses } from '@/shared/useTagUses';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useCallback, useMemo, useState } from 'react';
import { queries } from '@/api/queries';
import { Empty, Waiting } from '@/parts/Empty';
import { useTagLook } from '@/parts/useTagLook';
import { useKept } from '@/shared/useKept';
import { PanelLeftOpen, PanelRightOpen } from 'lucide-react';
import { MarkDrag } from './MarkDrag';
import { PaneHead } from './PaneHead';
import { neighbour } from './shelfOrder';
import { SourcePane } from './SourcePane';
import { SourceShelf } from './SourceShelf';
import { TagShelf } from './TagShelf';
import type { Show } from './show';
import type { TurnEditor } from './turnEditor';
import { aroundSource } from './actions';
import { usePageActions } from '@/parts/actions/registry';

interface Shelves {
  sources: boolean;
  tags: boolean;
}
const bothShelves: Shelves = { sources: true, tags: true };
const areShelves = (value: unknown): value is Shelves =>
  typeof value === 'object' && value !== null && typeof (value as Shelves).sources === 'boolean' && typeof (value as Shelves).tags === 'boolean';
const toShowBar = () => document.querySelector<HTMLElement>('[aria-label="What is shown"] button')?.focus();
const opener = 'absolute top-10 z-10 grid size-7 place-items-center rounded-std text-ink-soft hover:bg-wash hover:text-ink';

/** The second room: sources on the left, the words in the middle, the tag shelf on the right; or two sources side by side. */
export function MarkPage({ turnEditor }: { turnEditor: TurnEditor }) {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { source: wanted, beside, at, place, put, show } = useSearch({ from: '/team/studies/$studyId/mark' });
  const navigate = useNavigate();
  const { data: sources, error } = useQuery(queries.sources(studyId));
  const sourceId = wanted ?? sources?.find((s) => s.furthest !== null && s.furthest < s.length)?.id ?? sources?.[0]?.id;
  const { tags } = useTagUses(studyId);
  const participants = useQuery(queries.participants(studyId)).data;
  const named = useMemo(() => tags?.map((t) => t.tag), [tags]);
  const look = useTagLook(named);
  const [keyed, setKeyed] = useState(false);
  const open = useCallback(
    (search: { source?: number | undefined; beside?: number | undefined }) =>
      void navigate({
        to: '/studies/$studyId/mark',
        params: { studyId },
        search: (now) => ({
          ...Object.fromEntries(Object.entries(search).filter(([, id]) => id !== undefined)),
          ...(now.show && { show: now.show }),
          ...(now.where && { where: now.where }),
        }),
      }),
    [navigate, studyId],
  );
  const step = useCallback(
    (by: -1 | 1) => {
      const next = sources && sourceId !== undefined ? neighbour(sources, sourceId, by) : undefined;
      if (!next) return;
      setKeyed(true);
      open({ source: next.id, beside });
    },
    [sources, sourceId, beside, open],
  );
  const toggleBeside = useCallback(() => {
    if (!sources || sourceId === undefined) return;
    const other = neighbour(sources, sourceId, 1) ?? neighbour(sources, sourceId, -1);
    setKeyed(true);
    open({ source: sourceId, beside: beside === undefined ? other?.id : undefined });
  }, [sources, sourceId, beside, open]);
  const [shelves, setShelves] = useKept('mark-shelves', bothShelves, areShelves);
  const hideTags = useCallback(() => setShelves({ ...shelves, tags: false }), [shelves, setShelves]);
  const away = !shelves.sources && !shelves.tags;
  const focusMode = useCallback(() => setShelves({ sources: away, tags: away }), [away, setShelves]);
  usePageActions(aroundSource, { step, beside: toggleBeside, show: toShowBar, focusMode, away });
  if (!sources || !tags || !participants) return <Waiting problem={error} />;
  if (sourceId === undefined)
    return (
      <Empty
        title="Nothing to read yet"
        sample="“It’s always the box. You can’t put forty kilos of feed on your knee.”"
        action={
          <Link
            to="/studies/$studyId/gather"
            params={{ studyId }}
            className="inline-flex min-h-8 items-center rounded-std bg-verdigris px-3 font-medium text-on-verdigris"
          >
            Add a source
          </Link>
        }
      >
        Here the words are read and marked: select some, type what you notice, press Enter.
      </Empty>
    );
  const common = {
    tags,
    look,
    people: participants.people,
    turnEditor,
    show,
    onShow: (next: Show | undefined) =>
      void navigate({
        to: '/studies/$studyId/mark',
        params: { studyId },
        search: (now) => (next ? { ...now, show: next } : Object.fromEntries(Object.entries(now).filter(([name]) => name !== 'show'))),
        replace: true,
      }),
  };
  if (beside !== undefined)
    return (
      <div className="grid h-full grid-cols-2 divide-x divide-line">
        <SourcePane sourceId={sourceId} pane="first" keyed={keyed} at={at} place={place} {...common}>
          <PaneHead
            label="Left source"
            sources={sources}
            current={sourceId}
            onOpen={(id) => open({ source: id, beside })}
            onClose={() => open({ source: beside })}
          />
        </SourcePane>
        <SourcePane sourceId={beside} pane="second" keyed={false} {...common}>
          <PaneHead
            label="Right source"
            sources={sources}
            current={beside}
            onOpen={(id) => open({ source: sourceId, beside: id })}
            onClose={() => open({ source: sourceId })}
          />
        </SourcePane>
      </div>
    );
  return (
    <MarkDrag studyId={studyId} tags={tags}>
      <div className="relative grid h-full" style={{ gridTemplateColumns: `${shelves.sources ? '188px ' : ''}minmax(0, 1fr)${shelves.tags ? ' 252px' : ''}` }}>
        {shelves.sources && <SourceShelf studyId={studyId} sources={sources} people={participants} current={sourceId} onStep={step} onBeside={toggleBeside} />}
        <SourcePane
          sourceId={sourceId}
          pane="first"
          keyed={keyed || put !== undefined}
          at={at}
          place={place}
          put={put}
          onPut={() => void navigate({ to: '/studies/$studyId/mark/to-look-at', params: { studyId } })}
          {...common}
        />
        {shelves.tags && <TagShelf studyId={studyId} tags={tags} look={look} people={participants.people} onHide={hideTags} />}
        {!shelves.sources && (
          <button
            type="button"
            className={`${opener} left-1.5`}
            aria-label="Show the sources"
            title="Show the sources (z shows both)"
            onClick={() => setShelves({ ...shelves, sources: true })}
          >
            <PanelLeftOpen aria-hidden className="size-4" />
          </button>
        )}
        {!shelves.tags && (
          <button
            type="button"
            className={`${opener} right-1.5`}
            aria-label="Show the tags"
            title="Show the tags (z shows both)"
            onClick={() => setShelves({ ...shelves, tags: true })}
          >
            <PanelRightOpen aria-hidden className="size-4" />
          </button>
        )}
      </div>
    </MarkDrag>
  );
}
