import type { NavigateOptions } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { count } from '@/parts/words';

export type ThingKind = Schemas['ThingKind'];

/** What things are called; a new kind that has no words here does not build. What is found by words says in which place it is shown, too. */
export const thingWords: { [K in ThingKind]: { one: string; many: string } & (K extends Schemas['FoundKind'] ? { found: number } : unknown) } = {
  study: { one: 'study', many: 'studies', found: 1 },
  researchQuestion: { one: 'research question', many: 'research questions' },
  participant: { one: 'participant', many: 'participants' },
  attribute: { one: 'attribute', many: 'attributes' },
  folder: { one: 'folder', many: 'folders' },
  session: { one: 'session', many: 'sessions' },
  source: { one: 'source', many: 'sources', found: 2 },
  attachment: { one: 'attachment', many: 'attachments' },
  survey: { one: 'survey', many: 'surveys' },
  liveLine: { one: 'line of live notes', many: 'lines of live notes' },
  watch: { one: 'watch', many: 'watches' },
  tag: { one: 'tag', many: 'tags', found: 3 },
  tagProposal: { one: 'proposal', many: 'proposals' },
  tagSearch: { one: 'kept search', many: 'kept searches' },
  savedFilter: { one: 'saved filter', many: 'saved filters' },
  observation: { one: 'observation', many: 'observations', found: 7 },
  marginNote: { one: 'margin note', many: 'margin notes', found: 8 },
  theme: { one: 'theme', many: 'themes', found: 4 },
  insight: { one: 'insight', many: 'insights', found: 5 },
  exhibit: { one: 'exhibit', many: 'exhibits', found: 6 },
};

/** The page on which a thing is seen; null for one that has none of its own. */
export function pageOf(kind: ThingKind, id: number, studyId: number | null): NavigateOptions | null {
  const params = { studyId: studyId ?? 0 };
  switch (kind) {
    case 'study':
      return { to: '/studies/$studyId', params: { studyId: id } };
    case 'source':
      return { to: '/studies/$studyId/mark', params, search: { source: id } };
    case 'tag':
      return { to: '/tags', search: { tag: id } };
    case 'theme':
      return { to: '/studies/$studyId/sort/themes/$themeId', params: { ...params, themeId: id } };
    case 'insight':
      return { to: '/studies/$studyId/show/$insightId', params: { ...params, insightId: id } };
    case 'exhibit':
      return { to: '/exhibits/$exhibitId', params: { exhibitId: id } };
    default:
      return null;
  }
}

type UsesOfKind = Schemas['UsesOfKind'];

/** What those of one group are called: a bundle is of the kind of tags. */
function calledIn({ kind, as }: UsesOfKind) {
  if (as === 'bundle') return { one: 'bundle', many: 'bundles' };
  return kind === 'tag' ? { one: 'tag right under it', many: 'tags right under it' } : thingWords[kind];
}

/** How many use a thing, a line for each kind, with the titles of a few. */
export function usesInWords(kinds: readonly UsesOfKind[]): string[] {
  return kinds.map((of) => {
    const called = calledIn(of);
    const near = of.itself + of.within;
    const titles = of.named.slice(0, 3).map((u) => `“${u.title}”`);
    const left = near + of.further - titles.length;
    const names = titles.length > 0 ? `: ${titles.join(', ')}${left > 0 ? ` and ${left} more` : ''}` : '';
    const said = near > 0 ? count(near, called.one, called.many) : '';
    const further = of.further > 0 ? `${count(of.further, called.one, called.many)} that ${of.further === 1 ? 'rests' : 'rest'} on what it is on` : '';
    return [said, further].filter((part) => part !== '').join(' and ') + names;
  });
}
