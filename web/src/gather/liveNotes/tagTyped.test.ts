import { expect, test } from 'vitest';
import { completed, offered, slugOf, tagAt } from './tagTyped';

const tags = [
  { id: 1, name: 'queue' },
  { id: 2, name: '“return” misread' },
  { id: 3, name: 'named ticket' },
];

test.each([
  ['#que', 4, 'que'],
  ['they #na turn', 8, 'na'],
  ['they #named turn', 8, 'named'],
  ['a#b', 3, null],
  ['#queue they', 11, null],
  ['#', 1, ''],
])('in %j at %i a tag is typed: %j', (text, caret, typed) => {
  expect(tagAt(text, caret)?.typed ?? null).toBe(typed);
});

test('a tag that fits comes first, a new one last; one that fits badly comes after the new one', () => {
  expect(offered(tags, 'que').map((t) => t.name)).toEqual(['queue', 'que']);
  expect(offered(tags, 'named-t').map((t) => t.name)).toEqual(['named ticket', 'named t']);
  expect(offered(tags, 'queue').map((t) => t.name)).toEqual(['queue']);
  expect(offered(tags, 'lamp').map((t) => t.id)).toEqual([null]);
  expect(offered(tags, 'nt').map((t) => t.id)[0]).toBeNull();
});

test('a chosen tag is written out with hyphens, and the caret goes on after it', () => {
  expect(slugOf('“return” misread')).toBe('return-misread');
  expect(completed('they #re turn', tagAt('they #re turn', 8)!, 'return-misread')).toEqual({ text: 'they #return-misread turn', caret: 21 });
});
