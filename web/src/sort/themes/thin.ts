import type { Schemas } from '@/api/client';

/** Where a theme is thin, in a few words for its card. */
export const thinWords: Record<Schemas['ThinSpot'], string> = {
  noClaim: 'no claim',
  noDescription: 'no description',
  nobodySupports: 'nobody supports it',
  onePerson: 'one person',
  mostlyOnePerson: 'mostly one person',
  oneKind: 'one kind of source',
  groupsNotHeard: 'groups not heard',
  nothingAgainst: 'nothing against it',
  mixesGoodAndBad: 'mixes good and bad',
};

/** The same in a sentence, with the figures that it rests on. */
export function thinSentence(spot: Schemas['ThinSpot'], { view, negative, positive, silentGroups }: Schemas['ThemePage']): string {
  const { facts } = view;
  switch (spot) {
    case 'noClaim':
      return 'It claims nothing yet. Say in a sentence what its observations claim together.';
    case 'noDescription':
      return 'It has no description yet. Say what it means: until then it supports no insight.';
    case 'nobodySupports':
      return 'Nobody whose words are known supports it yet.';
    case 'onePerson':
      return `One person says so, ${facts.supporting === 1 ? 'once' : `${facts.supporting} times`}. Ask somebody else.`;
    case 'mostlyOnePerson':
      return `${Math.round(facts.largestShare * 100)} % of what supports it is one person’s.`;
    case 'oneKind':
      return 'All that supports it is of one kind of source.';
    case 'groupsNotHeard':
      return `Nothing from ${silentGroups
        .slice(0, 4)
        .map((g) => `${g.attribute}: ${g.value} (${g.people})`)
        .join('; ')}${silentGroups.length > 4 ? ` and ${silentGroups.length - 4} more groups` : ''}.`;
    case 'nothingAgainst':
      return 'Nothing contradicts it. Look for who says otherwise.';
    case 'mixesGoodAndBad':
      return `It mixes obstacles with what works: ${negative} negative and ${positive} positive. Two themes may say more.`;
  }
}
