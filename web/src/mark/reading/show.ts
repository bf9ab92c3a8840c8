import type { Schemas } from '@/api/client';
import type { Where } from '@/shared/filter/where';

type Observation = Pick<Schemas['Observation'], 'id' | 'tagIds' | 'createdById' | 'sentiment' | 'starred' | 'unsure' | 'found' | 'note'>;

const onlyThese = ['starred', 'unsure', 'noted', 'drafts', 'found', 'chosen'] as const;
export type Only = (typeof onlyThese)[number];
export type Felt = NonNullable<Schemas['Sentiment']>;
export const sentiments: readonly Felt[] = ['negative', 'neutral', 'positive', 'mixed'];

/** Which marks are shown over a text; all conditions together, of each list any. What is left out asks for nothing. */
export interface Show {
  tags?: number[];
  by?: number[];
  felt?: Felt[];
  only?: Only[];
}

const listOf = <T>(given: unknown, fits: (one: unknown) => one is T): T[] | undefined => {
  const found = Array.isArray(given) ? given.filter(fits) : [];
  return found.length > 0 ? [...new Set(found)] : undefined;
};
const isId = (one: unknown): one is number => typeof one === 'number' && Number.isInteger(one);

/** What an address asks to be shown; undefined for everything. */
export function showOf(given: unknown): Show | undefined {
  if (typeof given !== 'object' || given === null) return undefined;
  const from = given as Record<string, unknown>;
  const found = {
    tags: listOf(from['tags'], isId),
    by: listOf(from['by'], isId),
    felt: listOf(from['felt'], (one): one is Felt => sentiments.some((s) => s === one)),
    only: listOf(from['only'], (one): one is Only => onlyThese.some((o) => o === one)),
  };
  const asked = Object.entries(found).filter(([, list]) => list !== undefined);
  return asked.length > 0 ? (Object.fromEntries(asked) as Show) : undefined;
}

/** What conditions ask for that can be asked of the marks of one source. */
export function showUnder({ tagIds = [], authorIds = [], sentiments: felt = [], starred, unsure, reviewed }: Where): Show | undefined {
  return showOf({
    tags: tagIds,
    by: authorIds,
    felt,
    only: [...(starred ? ['starred'] : []), ...(unsure ? ['unsure'] : []), ...(reviewed ? ['chosen'] : [])],
  });
}

/** Whether an observation is shown; bundles in what is to be shown are replaced by their tags before. */
export function fits(o: Observation, show: Show | undefined, isDraft: (tagId: number) => boolean): boolean {
  if (!show) return true;
  const only = show.only ?? [];
  return (
    (!show.tags || o.tagIds.some((t) => show.tags!.includes(t))) &&
    (!show.by || show.by.includes(o.createdById)) &&
    (!show.felt || (o.sentiment !== null && show.felt.includes(o.sentiment))) &&
    (!only.includes('starred') || o.starred) &&
    (!only.includes('unsure') || o.unsure) &&
    (!only.includes('noted') || o.note !== '') &&
    (!only.includes('found') || o.found) &&
    (!only.includes('chosen') || !o.found) &&
    (!only.includes('drafts') || o.tagIds.some(isDraft))
  );
}
