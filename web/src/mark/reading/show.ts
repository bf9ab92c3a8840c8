import type { Schemas } from '@/api/client';
import { asking, whereOf, type Where } from '@/shared/filter/where';

type Observation = Pick<Schemas['Observation'], 'id' | 'tagIds' | 'createdById' | 'sentiment' | 'starred' | 'unsure' | 'found' | 'note'>;

/** Conditions that can be asked of the marks of one source. */
const ofMarks = ['tagIds', 'authorIds', 'sentiments', 'starred', 'unsure', 'reviewed'] as const;

/** What is asked of marks here, and is no condition of a filter. */
const here = ['noted', 'drafts', 'found'] as const;

/** What is either so or not. */
export const flags = ['starred', 'unsure', 'noted', 'drafts', 'found', 'reviewed'] as const;
export type Flag = (typeof flags)[number];

/** Which marks are shown over a text, in the words of conditions; all together, of each list any. What is left out asks for nothing. */
export type Show = Pick<Where, (typeof ofMarks)[number]> & Partial<Record<(typeof here)[number], boolean>>;

/** What an address asks to be shown; undefined for everything. */
export function showOf(given: unknown): Show | undefined {
  const from = (typeof given === 'object' && given !== null ? given : {}) as Record<string, unknown>;
  return asking({ ...whereOf(given, ofMarks), ...Object.fromEntries(here.map((name) => [name, from[name] === true])) });
}

/** Whether an observation is shown; bundles in what is to be shown are replaced by their tags before. */
export function fits(o: Observation, show: Show | undefined, isDraft: (tagId: number) => boolean): boolean {
  if (!show) return true;
  return (
    (!show.tagIds || o.tagIds.some((t) => show.tagIds!.includes(t))) &&
    (!show.authorIds || show.authorIds.includes(o.createdById)) &&
    (!show.sentiments || (o.sentiment !== null && show.sentiments.includes(o.sentiment))) &&
    (!show.starred || o.starred) &&
    (!show.unsure || o.unsure) &&
    (!show.noted || o.note !== '') &&
    (!show.found || o.found) &&
    (!show.reviewed || !o.found) &&
    (!show.drafts || o.tagIds.some(isDraft))
  );
}
