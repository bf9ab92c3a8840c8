import { Link } from '@tanstack/react-router';
import { ChevronLeft, ChevronRight, Columns2, PencilLine } from 'lucide-react';
import { memo, useState } from 'react';
import type { Schemas } from '@/api/client';
import { clock, count, kinds, kindWords } from '@/parts/words';
import { useSourceCounts } from '@/shared/useSourceCounts';
import { neighbour } from './shelfOrder';

interface Props {
  studyId: number;
  sources: readonly Schemas['SourceLine'][];
  people: Schemas['Participants'];
  current: number;
  onStep: (by: -1 | 1) => void;
  onBeside: () => void;
}

const step = 'grid size-7 place-items-center rounded-std text-ink-soft hover:bg-wash hover:text-ink disabled:opacity-40';

/** Where the one person of a source is at home, or the like: the first fact known of them. */
function factOf(source: Schemas['SourceLine'], people: Schemas['Participants']): string {
  if (source.peopleIds.length !== 1) return source.peopleIds.length > 1 ? `${source.peopleIds.length} people` : '';
  const person = people.people.find((p) => p.id === source.peopleIds[0]);
  const first = people.attributes[0];
  return (first && person?.values[first.id]) ?? '';
}

/** Of a kind with more sources than this, those around the one that is open are shown. */
const mostShown = 24;

/** Some of many, in their order, around the one that is open. */
function around<T extends { id: number }>(all: readonly T[], current: number): readonly T[] {
  if (all.length <= mostShown) return all;
  const at = Math.max(
    0,
    all.findIndex((s) => s.id === current),
  );
  const from = Math.min(Math.max(0, at - mostShown / 2), all.length - mostShown);
  return all.slice(from, from + mostShown);
}

export const SourceShelf = memo(function SourceShelf({ studyId, sources, people, current, onStep, onBeside }: Props) {
  const [typed, setTyped] = useState('');
  const observationsIn = useSourceCounts(studyId);
  const wanted = typed.trim().toLowerCase();
  const found = sources.filter((s) => s.title.toLowerCase().includes(wanted));
  return (
    <nav aria-label="Sources" className="overflow-y-auto border-r border-line px-5 py-4">
      <div role="group" aria-label="From source to source" className="-mt-1 mb-2 -ml-2 flex">
        <button
          type="button"
          className={step}
          title="The source before ({)"
          aria-label="The source before"
          disabled={!neighbour(sources, current, -1)}
          onClick={() => onStep(-1)}
        >
          <ChevronLeft aria-hidden className="size-4" />
        </button>
        <button
          type="button"
          className={step}
          title="The source after (})"
          aria-label="The source after"
          disabled={!neighbour(sources, current, 1)}
          onClick={() => onStep(1)}
        >
          <ChevronRight aria-hidden className="size-4" />
        </button>
        <button
          type="button"
          className={step}
          title="Open another source beside it (b)"
          aria-label="Open another source beside it"
          disabled={sources.length < 2}
          onClick={onBeside}
        >
          <Columns2 aria-hidden className="size-4" />
        </button>
        <Link
          to="/studies/$studyId/mark/correct/$sourceId"
          params={{ studyId, sourceId: current }}
          className={step}
          title="Correct its text (c corrects one turn)"
          aria-label="Correct its text"
        >
          <PencilLine aria-hidden className="size-4" />
        </Link>
      </div>
      {sources.length > mostShown && (
        <input
          aria-label="Find a source"
          placeholder="Find a source"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="mb-4 w-full rounded-std border border-line bg-case px-2.5 py-1 placeholder:text-ink-soft"
        />
      )}
      {kinds
        .filter((kind) => found.some((s) => s.kind === kind))
        .map((kind) => (
          <section key={kind} className="mb-5" aria-label={kindWords[kind].many}>
            <h2 className="mb-1.5 text-[12px] font-medium text-ink-soft">{kindWords[kind].many}</h2>
            {around(
              found.filter((s) => s.kind === kind),
              current,
            ).map((source) => {
              const read = source.length > 0 ? Math.min(1, (source.furthest ?? 0) / source.length) : 0;
              const seen = observationsIn(source.id) > 0 || (source.length > 0 && source.furthest !== null);
              const meta = [
                factOf(source, people),
                source.lengthMs !== null && clock(source.lengthMs),
                seen ? count(observationsIn(source.id), 'mark') : source.length > 0 ? 'unread' : 'no marks',
              ]
                .filter(Boolean)
                .join(', ');
              const here = source.id === current;
              return (
                <Link
                  key={source.id}
                  to="/studies/$studyId/mark"
                  params={{ studyId }}
                  search={(now) => ({ source: source.id, ...(now.show && { show: now.show }), ...(now.where && { where: now.where }) })}
                  aria-current={here ? 'page' : undefined}
                  className="group block pt-1.5 pb-1"
                >
                  <span className={`block truncate ${here ? 'font-semibold' : 'group-hover:underline'}`} title={source.title}>
                    {source.title}
                  </span>
                  <span className="block truncate text-[12px] text-ink-soft">{meta}</span>
                  {source.length > 0 ? (
                    <span role="img" aria-label={`${Math.round(read * 100)} % read`} className="mt-1 block h-[2px] bg-line">
                      <span className={`block h-full ${here ? 'bg-verdigris' : 'bg-verdigris/50'}`} style={{ width: `${read * 100}%` }} />
                    </span>
                  ) : (
                    <span className={`mt-1 block h-[2px] ${here ? 'bg-verdigris' : ''}`} />
                  )}
                </Link>
              );
            })}
            {found.filter((s) => s.kind === kind).length > mostShown && (
              <p className="mt-2 text-[12px] text-ink-soft">{found.filter((s) => s.kind === kind).length - mostShown} more; type to find one</p>
            )}
          </section>
        ))}
    </nav>
  );
});
