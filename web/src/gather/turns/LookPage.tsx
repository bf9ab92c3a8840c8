import { useQueries, useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearch } from '@tanstack/react-router';
import { useEffect } from 'react';
import { queries } from '@/api/queries';
import { ActionHints } from '@/parts/actions/ActionHints';
import { useRowActions } from '@/parts/actions/registry';
import { Empty, Waiting } from '@/parts/Empty';
import { labels } from './actions';
import { LookAtSource } from './LookAtSource';

const { speaker, team, noSpeaker, next } = labels.actions;

/** A look before it counts: what was understood of the sources that came in, what is doubtful, and what was left out. */
export function LookPage() {
  useRowActions(labels);
  const { studyId } = useParams({ from: '/team/studies/$studyId/gather/look' });
  const { sources: wanted = '' } = useSearch({ from: '/team/studies/$studyId/gather/look' });
  const { data: sources, error } = useQuery(queries.sources(studyId));
  const people = useQuery(queries.participants(studyId)).data?.people;
  const imports = useQuery(queries.imports(studyId)).data ?? [];
  const ids = wanted.split(',').map(Number);
  const shown = ids.flatMap((id) => sources?.find((s) => s.id === id) ?? []);
  const ready = useQueries({ queries: shown.map((s) => queries.sourceLook(s.id)) }).every((look) => look.data) && people !== undefined;
  // The keys work at once: the first doubtful name of the page has the focus, unless something else has it.
  useEffect(() => {
    if (ready && document.activeElement === document.body) document.querySelector<HTMLElement>('[data-label-row="open"]')?.focus({ preventScroll: true });
  }, [ready]);
  if (!sources || !people) return <Waiting problem={error} />;
  if (shown.length === 0)
    return (
      <Empty title="Nothing to look at" sample="2 names we are not sure about">
        After files have come in, this page shows what was understood of them: turns, speakers, headings and times, and every name that is doubtful.
      </Empty>
    );
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[900px] px-5 py-6">
        <div className="mb-1 flex items-baseline gap-3">
          <h1 className="font-read text-[22px] font-semibold">A look before it counts</h1>
          <Link to="/studies/$studyId/gather" params={{ studyId }} className="ml-auto font-medium text-sky hover:underline">
            Back to the sources
          </Link>
        </div>
        <p className="mb-4 text-[13px] text-ink-soft">
          On a name: <ActionHints of={[speaker, team, noSpeaker, next]} />. The turns are read anew at once; every answer can be undone, and so can all that
          came in at once.
        </p>
        {shown.map((source) => (
          <LookAtSource
            key={source.id}
            studyId={studyId}
            source={source}
            people={people}
            remarks={imports.find((i) => i.sourceId === source.id)?.said ?? null}
          />
        ))}
      </div>
    </div>
  );
}
