import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearch } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Empty, Waiting } from '@/parts/Empty';
import { useTagLook } from '@/parts/useTagLook';
import { KeptMedia } from './KeptMedia';
import { Reading } from './Reading';
import { SourceShelf } from './SourceShelf';
import { TagShelf } from './TagShelf';

// The words can be read before their marks are there.
const none: readonly Schemas['Observation'][] = [];

/** The second room: sources on the left, the words in the middle, the tag shelf on the right. */
export function MarkPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { source: wanted, at, place } = useSearch({ from: '/team/studies/$studyId/mark' });
  const { data: sources, error } = useQuery(queries.sources(studyId));
  const sourceId = wanted ?? sources?.find((s) => s.furthest !== null && s.furthest < s.length)?.id ?? sources?.[0]?.id;
  const source = useQuery({ ...queries.source(sourceId ?? 0), enabled: sourceId !== undefined });
  const observations = useQuery({ ...queries.observations(sourceId ?? 0), enabled: sourceId !== undefined }).data ?? none;
  const tags = useQuery(queries.tags(studyId)).data;
  const participants = useQuery(queries.participants(studyId)).data;
  const look = useTagLook(tags?.map((t) => t.tag));
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
  return (
    <div className="grid h-full grid-cols-[188px_minmax(0,1fr)_252px]">
      <SourceShelf studyId={studyId} sources={sources} people={participants} current={sourceId} />
      <div className="overflow-y-auto" data-testid="reading-scroll">
        {source.data?.text === '' ? (
          <KeptMedia source={source.data} />
        ) : source.data ? (
          <Reading
            key={`${sourceId} ${place ?? ''}`}
            source={source.data}
            stored={observations}
            tags={tags}
            look={look}
            people={participants.people}
            at={at}
            place={place}
          />
        ) : (
          <Waiting problem={source.error} />
        )}
      </div>
      <TagShelf tags={tags} look={look} people={participants.people} />
    </div>
  );
}
