import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { textAt } from '@/api/waiting/writeTo';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { count, ofPeople } from '@/parts/words';
import { AutoText } from '@/shared/AutoText';
import type { Group } from './walk';

interface Props {
  studyId: number;
  suggestionId: number;
  group: Group;
  people: readonly Schemas['Participant'][];
  who: (id: number | null) => string;
  /** The claim is written: back to what is gone through. */
  onLeave: () => void;
}

/** So many quotes say what a group is about. */
const mostQuotes = 2;

/** What a group is about: its claim, the words that set it apart, who is in it, and what tells it best. */
export function GroupHead({ studyId, suggestionId, group, people, who, onLeave }: Props) {
  const told = useQuery(queries.suggestedTold(studyId, suggestionId, group.id)).data;
  const { themeId, words, breadth, mixes } = group;
  return (
    <header>
      <p className="flex items-baseline gap-3 text-[12.5px] font-semibold text-brass">
        {themeId === null ? 'Suggested' : <span className="text-verdigris">A theme</span>}
        {themeId !== null && (
          <Link to="/studies/$studyId/sort/themes/$themeId" params={{ studyId, themeId }} className="ml-auto font-normal text-sky hover:underline">
            open its page
          </Link>
        )}
      </p>
      <div id="claim-of-group">
        <AutoText
          key={group.id}
          label="Claim"
          value={group.title}
          placeholder="What these claim together, in a sentence"
          className="font-read text-[21px] leading-[1.3] font-semibold"
          path={textAt('/api/suggested-groups/{id}/title', { id: group.id })}
          what="Claim of a theme"
          onLeave={onLeave}
        />
      </div>
      <p className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px] text-ink-soft">
        <PeopleStrip people={people} breadth={breadth} />
        <span>
          {ofPeople(breadth.triple.people, breadth.outOf)}, {count(group.observations, 'observation')}
        </span>
        {words.length > 0 && <span>Said here more than elsewhere: {words.map((w) => `“${w}”`).join(', ')}</span>}
        {mixes && <span className="text-brass">mixes good and bad</span>}
      </p>
      <ul aria-label="Telling quotes" className="mt-2 min-h-[26px] font-read text-[14.5px] leading-[1.5] text-ink-soft">
        {told?.telling.slice(0, mostQuotes).map(({ quote }) => (
          <li key={quote.observationId} className="truncate">
            {who(quote.participantId)}: {quote.words}
          </li>
        ))}
      </ul>
    </header>
  );
}
