import type { Schemas } from '@/api/client';
import { count, day, ofPeople } from './words';

type Facts = Schemas['EvidenceFacts'];

/** What made the level, in words: people for and against, of how many, kinds, the loudest person's part, the newest evidence. */
export function factWords(facts: Facts, outOf: number, newest: string | null): string[] {
  const loud = facts.supporting >= 4 && facts.largestShare > 0.5;
  return [
    facts.peopleFor > 0 ? `${ofPeople(facts.peopleFor, outOf)} say so` : '',
    facts.peopleAgainst > 0 ? `${facts.peopleAgainst} ${facts.peopleAgainst === 1 ? 'says' : 'say'} otherwise` : '',
    facts.kinds > 0 ? `${count(facts.kinds, 'kind')} of source` : '',
    loud ? `${Math.round(facts.largestShare * 100)} % of it from one person` : '',
    newest ? `newest ${day(newest)}` : '',
  ].filter(Boolean);
}
