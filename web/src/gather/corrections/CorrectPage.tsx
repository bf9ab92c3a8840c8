import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { queries } from '@/api/queries';
import { Waiting } from '@/parts/Empty';
import { Correcting } from './Correcting';

/** A source's whole text to be corrected, beside what that will do. */
export function CorrectPage() {
  const { studyId, sourceId } = useParams({ from: '/team/studies/$studyId/mark/correct/$sourceId' });
  const { data: source, error } = useQuery(queries.source(sourceId));
  if (!source) return <Waiting problem={error} />;
  if (source.text === '')
    return (
      <p className="px-6 py-10 text-ink-soft">
        “{source.line.title}” is a recording or a picture; it has no text to correct.{' '}
        <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: sourceId }} className="text-sky underline underline-offset-2">
          Back to it
        </Link>
      </p>
    );
  return <Correcting key={sourceId} studyId={studyId} source={source} />;
}
