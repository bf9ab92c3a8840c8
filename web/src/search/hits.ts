import type { NavigateOptions } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { pageOf, thingWords } from '@/shared/things';

export type Hit = Schemas['Hit'];
export type FoundKind = Schemas['FoundKind'];

/** The kinds of what is found, in the order shown: places by name first, then words. */
export const foundKinds: readonly FoundKind[] = [
  ...Object.entries(thingWords)
    .flatMap(([kind, words]) => ('found' in words ? [{ kind: kind as Exclude<FoundKind, 'text'>, at: words.found }] : []))
    .toSorted((a, b) => a.at - b.at)
    .map(({ kind }) => kind),
  'text',
];

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

export const foundWords = Object.fromEntries(foundKinds.map((kind) => [kind, kind === 'text' ? 'Words in sources' : capital(thingWords[kind].many)])) as Record<
  FoundKind,
  string
>;

/** Where a hit is. */
export function placeOf(hit: Hit): NavigateOptions {
  const params = { studyId: hit.studyId ?? 0 };
  switch (hit.kind) {
    case 'text':
      return { to: '/studies/$studyId/mark', params, search: { source: hit.id, place: hit.at ?? 0 } };
    case 'observation':
      return { to: '/studies/$studyId/mark', params, search: { source: hit.sourceId ?? 0, at: hit.id } };
    case 'marginNote':
      return { to: '/studies/$studyId/mark', params, search: { source: hit.sourceId ?? 0, place: hit.at ?? 0 } };
    default:
      return pageOf(hit.kind, hit.id, hit.studyId)!;
  }
}
