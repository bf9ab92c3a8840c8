import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useSettled } from '@/parts/useSettled';
import { HitWords } from '@/parts/HitWords';
import { count } from '@/parts/words';

type Found = Schemas['WordsInSource'];

const none: ReadonlyMap<number, Found> = new Map();

const pause = 90;

/** What is found inside the sources for what is being typed; the last answer stays until the next is there. */
export function useWordsInside(studyId: number, typed: string): ReadonlyMap<number, Found> {
  const asked = useSettled(typed, pause);
  const { data } = useQuery({ ...queries.wordsIn(studyId, asked), placeholderData: keepPreviousData });
  return typed.trim() === '' || !data ? none : new Map(data.map((f) => [f.sourceId, f]));
}

/** The places in one source that hold what was typed; each opens there. */
export function WordsInside({ studyId, sourceId, found }: { studyId: number; sourceId: number; found: Found | undefined }) {
  if (!found) return null;
  return (
    <ul className="mt-0.5 max-w-[70ch] pb-1">
      {found.passages.map((passage) => (
        <li key={passage.at}>
          <Link
            to="/studies/$studyId/mark"
            params={{ studyId }}
            search={{ source: sourceId, place: passage.at }}
            draggable={false}
            className="block truncate font-read text-[14px] text-ink-soft hover:text-ink hover:underline"
          >
            … <HitWords hit={passage} /> …
          </Link>
        </li>
      ))}
      {found.hits > found.passages.length && <li className="text-[12px] text-ink-soft">{count(found.hits, 'hit')} in this source</li>}
    </ul>
  );
}
