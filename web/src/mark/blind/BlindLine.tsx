import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { inWords } from '@/parts/lists';

interface Props {
  studyId: number;
  sourceId: number;
}

/** Over a source that is tagged blind: who is still tagging, and the way to say done or to open it. */
export function BlindLine({ studyId, sourceId }: Props) {
  const me = useQuery(queries.me()).data?.account;
  const { taggers = [], openedAt = null } = useQuery(queries.blind(sourceId)).data ?? {};
  const path = { id: sourceId };
  const done = useWrite((is: boolean) => ask(api.PUT('/api/sources/{id}/blind/done', { params: { path }, body: { done: is } })));
  const open = useWrite(() => ask(api.POST('/api/sources/{id}/blind/open', { params: { path } })));
  if (taggers.length === 0) return null;
  const mine = taggers.find((t) => t.accountId === me?.id);
  const first = (name: string) => name.split(' ')[0]!;
  const line = 'flex flex-wrap items-baseline gap-x-2.5 border-b border-line px-5 py-1 text-[12.5px]';
  const button = 'min-h-6 font-medium text-sky hover:underline';
  if (openedAt !== null)
    return (
      <p className={line}>
        <span>Tagged blind by {inWords(taggers.map((t) => first(t.name)))}, and open now. What is marked from here on says so.</span>
        <Link
          to="/studies/$studyId/weigh/agreement"
          params={{ studyId }}
          search={{ source: sourceId, first: taggers[0]!.accountId, second: taggers[1]!.accountId }}
          className={button}
        >
          How far they agree
        </Link>
      </p>
    );
  const others = taggers.filter((t) => t !== mine).map((t) => `${first(t.name)} ${t.doneAt === null ? 'is still tagging' : 'is done'}`);
  return (
    <p className={`${line} bg-brass-wash`} role="status">
      <span>
        {mine ? 'You tag this source blind: what the others mark is hidden until all are done.' : 'This source is tagged blind.'} {others.join(', ')}.
      </span>
      {mine && (
        <button type="button" className={button} onClick={() => done.mutate(mine.doneAt === null)}>
          {mine.doneAt === null ? 'I am done' : 'Not done yet'}
        </button>
      )}
      {me?.role !== 'noteTaker' && (
        <button type="button" className={button} onClick={() => open.mutate()}>
          Open it now
        </button>
      )}
    </p>
  );
}
