import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { count, kinds, kindWords } from '@/parts/words';

interface Props {
  studyId: number;
  sources: readonly Schemas['SourceLine'][];
  people: Schemas['Participants'];
  current: number;
}

/** Where the one person of a source is at home, or the like: the first fact known of them. */
function factOf(source: Schemas['SourceLine'], people: Schemas['Participants']): string {
  const ids = new Set([...source.participantIds, ...source.speakers.flatMap((s) => (s.participantId === null ? [] : [s.participantId]))]);
  if (ids.size !== 1) return ids.size > 1 ? `${ids.size} people` : '';
  const person = people.people.find((p) => ids.has(p.id));
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

export function SourceShelf({ studyId, sources, people, current }: Props) {
  const [typed, setTyped] = useState('');
  const wanted = typed.trim().toLowerCase();
  const found = sources.filter((s) => s.title.toLowerCase().includes(wanted));
  return (
    <nav aria-label="Sources" className="overflow-y-auto border-r border-line px-5 py-4">
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
              const meta = [factOf(source, people), source.furthest === null ? 'unread' : count(source.observations, 'mark')].filter(Boolean).join(', ');
              const here = source.id === current;
              return (
                <Link
                  key={source.id}
                  to="/studies/$studyId/mark"
                  params={{ studyId }}
                  search={{ source: source.id }}
                  aria-current={here ? 'page' : undefined}
                  className="group block pt-1.5 pb-1"
                >
                  <span className={`block truncate ${here ? 'font-semibold' : 'group-hover:underline'}`} title={source.title}>
                    {source.title}
                  </span>
                  <span className="block truncate text-[12px] text-ink-soft">{meta}</span>
                  <span role="img" aria-label={`${Math.round(read * 100)} % read`} className="mt-1 block h-[2px] bg-line">
                    <span className={`block h-full ${here ? 'bg-verdigris' : 'bg-verdigris/50'}`} style={{ width: `${read * 100}%` }} />
                  </span>
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
}
