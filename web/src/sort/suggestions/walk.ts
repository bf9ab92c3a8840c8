import type { Schemas } from '@/api/client';

export type View = Schemas['SuggestionView'];
export type Item = Schemas['SuggestedItemView'];
export type Group = Schemas['SuggestedGroupView'];
type Pile = Schemas['SuggestedPile'];

/** What lies in no group, in the order in which it is gone through; `loose` is what is put somewhere by hand. */
export const piles = ['loose', 'unsure', 'mixed', 'alone', 'refused'] as const satisfies readonly (Pile | 'loose')[];
export type Place = number | (typeof piles)[number];

/** What was answered here and is on its way. */
export interface Given {
  answer: Schemas['SuggestionAnswer'];
  groupId: number | null;
}

/** The items as they will be when what is on its way is answered. */
export const withGiven = (items: readonly Item[], given: ReadonlyMap<number, Given>): Item[] =>
  items.map((item) => {
    const mine = given.get(item.id);
    if (!mine) return item;
    const sure = mine.groupId !== null && (mine.answer === 'accepted' || mine.answer === 'open');
    return { ...item, answer: mine.answer, groupId: mine.groupId ?? item.groupId, pile: sure ? 'fits' : item.pile };
  });

/** Under what something is gone through: a group, or a pile of what lies in none. */
export const placeOf = (item: Item): Place => (item.pile !== 'fits' ? item.pile : (item.groupId ?? 'loose'));

/** Where a yes puts it: what is in no group goes to what it is nearest to; null where it is near nothing. */
export const yesTo = (item: Item): number | null => item.groupId ?? (item.pile === 'mixed' || item.pile === 'fits' ? item.nextId : null);

export const isWaiting = (item: Item) => item.answer === 'open' || item.answer === 'later';

const turn: Record<Item['answer'], number> = { open: 0, later: 1, accepted: 2, refused: 3 };

/** What is gone through under one place: what is open first, what was put off after it, what is answered last. */
export const inTurn = (items: readonly Item[], place: Place): Item[] =>
  items.filter((item) => placeOf(item) === place).sort((a, b) => turn[a.answer] - turn[b.answer]);

/** All places in the order in which they are gone through, but for piles in which nothing lies. */
export const placesOf = (groups: readonly Group[], items: readonly Item[]): Place[] => {
  const there = new Set(items.map(placeOf));
  const loose = there.has('loose') ? (['loose'] as const) : [];
  return [...loose, ...groups.map((group) => group.id), ...piles.filter((pile) => pile !== 'loose' && there.has(pile))];
};

/** Where one goes on when a place is done: the next one with something open, then one with something put off, or where one is. */
export function goesOn(places: readonly Place[], items: readonly Item[], place: Place): Place {
  const at = places.indexOf(place);
  const round = [...places.slice(at), ...places.slice(0, Math.max(at, 0))];
  const first = (answer: Item['answer']) => round.find((p) => items.some((item) => item.answer === answer && placeOf(item) === p));
  return first('open') ?? first('later') ?? place;
}

/** What is looked at next when one has been answered: the next in turn that is open. */
export function after(listed: readonly Item[], id: number): number | null {
  const at = listed.findIndex((item) => item.id === id);
  return [...listed.slice(at + 1), ...listed.slice(0, at)].find((item) => item.answer === 'open')?.id ?? null;
}

/** What a group is called: its claim, else what is said in it. */
export const nameOf = (group: Group | undefined, number: number): string =>
  group?.title ? group.title : group && group.words.length > 0 ? group.words.map((w) => `“${w}”`).join(', ') : `Group ${number}`;
