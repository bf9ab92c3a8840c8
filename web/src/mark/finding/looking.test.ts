import { expect, it } from 'vitest';
import { asked, dryAfter, lookingFor, runsDry, upTo } from './looking';

it('takes from an address what it knows, and leaves out the rest', () => {
  expect(lookingFor({ typed: 5, unit: 'page', team: 'yes', marked: 1, newFor: '3' })).toEqual({ typed: '5' });
  expect(lookingFor({ typed: '', unit: 'turn', marked: true, newFor: 3 })).toEqual({ unit: 'turn', marked: true, newFor: 3 });
});

it('asks for sentences of everyone when nothing is said', () => {
  expect(asked({}, 'late', undefined)).toEqual({ typed: 'late', unit: 'sentence' });
  expect(asked({ team: true, newFor: 2 }, '', { tagIds: [1] })).toEqual({ typed: '', unit: 'sentence', team: true, newForTagId: 2, where: '{"tagIds":[1]}' });
});

it('chooses up to a place from the last one, in either direction', () => {
  expect(upTo(['a', 'b', 'c', 'd'], 2, 0)).toEqual(['a', 'b', 'c']);
  expect(upTo(['a', 'b', 'c', 'd'], null, 3)).toEqual(['d']);
});

it('runs dry when the last answers were all no', () => {
  const no = Array.from({ length: dryAfter }, () => false);
  expect(runsDry(no)).toBe(true);
  expect(runsDry(no.slice(1))).toBe(false);
  expect(runsDry([true, ...no])).toBe(true);
  expect(runsDry([...no.slice(1), true])).toBe(false);
});
