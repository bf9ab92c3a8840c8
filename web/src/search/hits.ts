import type { NavigateOptions } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';

export type Hit = Schemas['Hit'];
export type FoundKind = Schemas['FoundKind'];

/** The kinds of what is found, in the order shown: places by name first, then words. */
export const foundKinds: readonly FoundKind[] = ['study', 'source', 'tag', 'theme', 'insight', 'exhibit', 'observation', 'marginNote', 'text'];

export const foundWords: Record<FoundKind, string> = {
  study: 'Studies',
  source: 'Sources',
  tag: 'Tags',
  theme: 'Themes',
  insight: 'Insights',
  exhibit: 'Exhibits',
  observation: 'Observations',
  marginNote: 'Margin notes',
  text: 'Words in sources',
};

/** Where a hit is. */
export function placeOf(hit: Hit): NavigateOptions {
  const params = { studyId: hit.studyId ?? 0 };
  switch (hit.kind) {
    case 'study':
      return { to: '/studies/$studyId', params };
    case 'source':
      return { to: '/studies/$studyId/mark', params, search: { source: hit.id } };
    case 'text':
      return { to: '/studies/$studyId/mark', params, search: { source: hit.id, place: hit.at ?? 0 } };
    case 'observation':
      return { to: '/studies/$studyId/mark', params, search: { source: hit.sourceId ?? 0, at: hit.id } };
    case 'marginNote':
      return { to: '/studies/$studyId/mark', params, search: { source: hit.sourceId ?? 0, place: hit.at ?? 0 } };
    case 'tag':
      return { to: '/tags', search: { tag: hit.id } };
    case 'theme':
      return { to: '/studies/$studyId/sort', params, search: { theme: hit.id } };
    case 'insight':
      return { to: '/studies/$studyId/show/$insightId', params: { ...params, insightId: hit.id } };
    case 'exhibit':
      return { to: '/exhibits/$exhibitId', params: { exhibitId: hit.id } };
  }
}
