import { Link } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { pageOf, thingWords, type ThingKind } from './things';

/** One line: something that uses what is shown, with the way to it. */
export function UsedBy({ kind, of }: { kind: ThingKind; of: Schemas['UsedIn'] }) {
  const word = thingWords[kind].one;
  const page = pageOf(kind, of.id, of.studyId);
  return (
    <p>
      <span className="text-ink-soft">
        {word.charAt(0).toUpperCase() + word.slice(1)}
        {of.reach === 'within' && ', by its tag'}:{' '}
      </span>
      {page ? (
        <Link {...page} className="font-read text-sky hover:underline">
          {of.title}
        </Link>
      ) : (
        <span className="font-read">{of.title}</span>
      )}
    </p>
  );
}
