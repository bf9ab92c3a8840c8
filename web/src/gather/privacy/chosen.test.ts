import { expect, test } from 'vitest';
import { masksOf, sortedOut } from './chosen';

const place = (start: number, maskId: number | null = null) => ({ sourceId: 3, start, end: start + 6, before: '', after: '', maskId });
const group = { kind: 'name' as const, words: 'Marnie', replacement: 'Sorrel', places: [place(5), place(40, 8), place(60)] };

test('places that are masked already stand apart; those that are unticked are left; a replacement goes to all of a group', () => {
  const { open, done } = sortedOut([group]);
  expect(done[0]!.places.map((p) => p.start)).toEqual([40]);
  const masks = masksOf(open, { left: new Set(['3 60']), replacements: new Map([['name marnie', 'S.']]) });
  expect(masks).toEqual([{ sourceId: 3, start: 5, end: 11, kind: 'name', replacement: 'S.' }]);
});
