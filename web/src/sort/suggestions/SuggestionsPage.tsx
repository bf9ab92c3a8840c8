import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { day } from '@/parts/words';
import { SortingViews } from '@/sort/themes/SortingViews';
import { nothing } from '@/sort/themes/chosen';
import { AskForSuggestions } from './AskForSuggestions';
import { askedFor } from './asked';

/** Suggestions that were asked for in a study; each can be left and come back to. */
export function SuggestionsPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { data: all, error } = useQuery(queries.suggestions(studyId));
  const themes = useQuery(queries.sorting(studyId)).data?.themes;
  const [asking, setAsking] = useState(false);
  const putAway = useWrite(({ id, away }: { id: number; away: boolean }) =>
    ask(api.PUT('/api/suggestions/{id}/put-away', { params: { path: { id } }, body: { putAway: away } })),
  );
  if (!all || !themes) return <Waiting problem={error} />;
  const askButton = (
    <Button look="main" onClick={() => setAsking(true)}>
      Ask for suggestions
    </Button>
  );
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[860px] px-5 py-4">
        <div className="mb-5 flex items-center gap-4">
          <SortingViews studyId={studyId} at="suggestions" />
          {all.length > 0 && <span className="ml-auto">{askButton}</span>}
        </div>
        {all.length === 0 ? (
          <Empty title="No suggestions yet" sample="“ramp”, “ring first”, “hand” may make a theme: 3 tags, 2 people." action={askButton}>
            Themes that tags make together, where loose observations belong, parts of a theme that has grown long. You go through them by keys; nothing is done
            without your yes.
          </Empty>
        ) : (
          <ul aria-label="Suggestions">
            {all.map((one) => (
              <li key={one.id} className={`flex flex-wrap items-baseline gap-x-4 border-t border-line py-2.5 ${one.putAway ? 'text-ink-soft' : ''}`}>
                <Link
                  to="/studies/$studyId/sort/suggestions/$suggestionId"
                  params={{ studyId, suggestionId: one.id }}
                  className={`font-read text-[17px] hover:underline ${one.putAway ? '' : 'font-semibold'}`}
                >
                  {askedFor(one, themes)}
                </Link>
                <span className="text-[12.5px] text-ink-soft">
                  by {one.createdBy}, {day(one.createdAt)}
                </span>
                <span className={`ml-auto text-[12.5px] ${one.answered < one.items && !one.putAway ? 'text-brass' : 'text-ink-soft'}`}>
                  {one.answered === one.items ? 'all answered' : `${one.items - one.answered} of ${one.items} to go`}
                </span>
                <Button look="quiet" onClick={() => putAway.mutate({ id: one.id, away: !one.putAway })}>
                  {one.putAway ? 'Take out again' : 'Put away'}
                </Button>
              </li>
            ))}
          </ul>
        )}
      </div>
      {asking && <AskForSuggestions studyId={studyId} chosen={nothing} onClose={() => setAsking(false)} />}
    </div>
  );
}
