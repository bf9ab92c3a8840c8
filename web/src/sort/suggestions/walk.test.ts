import { expect, test } from 'vitest';
import { after, goesOn, inTurn, placeOf, placesOf, withGiven, yesTo, type Group, type Item } from './walk';

const item = (id: number, groupId: number | null, more: Partial<Item> = {}): Item => ({
  id,
  tagId: id,
  observationId: null,
  groupId,
  nextId: null,
  pile: groupId === null ? 'alone' : 'fits',
  answer: 'open',
  mixes: false,
  why: null,
  ...more,
});
const group = (id: number) => ({ id, title: '', themeId: null, words: [], observations: 0, mixes: false }) as unknown as Group;

test('what is on its way stands where it is going', () => {
  const items = [item(1, 10), item(2, null), item(3, 10, { pile: 'unsure', nextId: 20 })];
  const shown = withGiven(
    items,
    new Map([
      [1, { answer: 'refused', groupId: null }],
      [2, { answer: 'open', groupId: 20 }],
      [3, { answer: 'later', groupId: null }],
    ]),
  );
  expect(shown.map((i) => [i.answer, placeOf(i)])).toEqual([
    ['refused', 10],
    ['open', 20],
    ['later', 'unsure'],
  ]);
});

test('what is open comes first, what was put off after it, what is answered last', () => {
  const items = [item(1, 10, { answer: 'accepted' }), item(2, 10, { answer: 'later' }), item(3, 10), item(4, 20), item(5, 10)];
  expect(inTurn(items, 10).map((i) => i.id)).toEqual([3, 5, 2, 1]);
});

test('after an answer the next open one is looked at, from the end the first again', () => {
  const items = [item(1, 10), item(2, 10), item(3, 10, { answer: 'later' }), item(4, 10, { answer: 'refused' })];
  expect(after(items, 1)).toBe(2);
  expect(after(items, 2)).toBe(1);
  expect(after([item(1, 10), item(3, 10, { answer: 'later' })], 1)).toBeNull();
});

test('a group that is done leads to the next with something open, then to what was put off', () => {
  const groups = [group(10), group(20), group(30)];
  const items = [item(1, 10, { answer: 'later' }), item(2, 20, { answer: 'accepted' }), item(3, 30), item(4, null)];
  const places = placesOf(groups, items);
  expect(places).toEqual([10, 20, 30, 'alone']);
  expect(goesOn(places, items, 20)).toBe(30);
  expect(goesOn(places, items, 'alone')).toBe('alone');
  const done = items.map((i) => (i.id > 2 ? { ...i, answer: 'refused' as const } : i));
  expect(goesOn(places, done, 30)).toBe(10);
  expect(goesOn(places, [], 30)).toBe(30);
});

test('what is put by hand comes before all groups, and a yes puts it where it is nearest to', () => {
  const items = [item(1, 10), item(2, null, { pile: 'fits' }), item(3, null, { pile: 'fits', nextId: 10 })];
  expect(placesOf([group(10)], items)).toEqual(['loose', 10]);
  expect(items.map(yesTo)).toEqual([10, null, 10]);
});

test('a yes puts what is mixed into what it is nearest to, and what is alone nowhere', () => {
  expect(yesTo(item(1, null, { pile: 'mixed', nextId: 20 }))).toBe(20);
  expect(yesTo(item(1, null, { nextId: 20 }))).toBeNull();
  expect(yesTo(item(1, 10, { pile: 'unsure' }))).toBe(10);
});
