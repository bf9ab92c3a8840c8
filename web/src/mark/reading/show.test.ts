import { describe, expect, it } from 'vitest';
import { inWords, toggled } from '@/parts/lists';
import { fits, showOf, showUnder } from './show';

const o = { id: 1, tagIds: [7, 8], createdById: 3, sentiment: 'negative' as const, starred: true, unsure: false, found: false, note: '' };
const draft = (id: number) => id === 8;

describe('what is shown of the marks', () => {
  it('is everything when nothing is asked', () => expect(fits(o, undefined, draft)).toBe(true));
  it('is what has any of the tags, authors and sentiments, and all that is asked besides', () => {
    expect(fits(o, { tags: [9, 7] }, draft)).toBe(true);
    expect(fits(o, { tags: [9] }, draft)).toBe(false);
    expect(fits(o, { tags: [7], by: [4] }, draft)).toBe(false);
    expect(fits(o, { by: [3], felt: ['negative', 'mixed'] }, draft)).toBe(true);
    expect(fits({ ...o, sentiment: null }, { felt: ['negative'] }, draft)).toBe(false);
    expect(fits(o, { only: ['starred', 'drafts'] }, draft)).toBe(true);
    expect(fits(o, { only: ['starred', 'unsure'] }, draft)).toBe(false);
    expect(fits(o, { only: ['noted'] }, draft)).toBe(false);
  });
  it('is read from an address that anybody may have written', () => {
    expect(showOf({ tags: [7, 7, 'x', 1.5], by: 'all', felt: ['glad'], only: ['unsure', null] })).toEqual({ tags: [7], only: ['unsure'] });
    expect(showOf({ tags: [] })).toBeUndefined();
    expect([showOf(null), showOf('tags'), showOf(undefined)]).toEqual([undefined, undefined, undefined]);
  });
  it('is changed one by one and said in words', () => {
    expect(toggled([1, 2], 2)).toEqual([1]);
    expect(toggled(undefined, 2)).toEqual([2]);
    expect(toggled([2], 2)).toBeUndefined();
    expect([inWords(['Ida']), inWords(['Ida', 'Tom']), inWords(['Ida', 'Tom', 'Una'])]).toEqual(['Ida', 'Ida and Tom', 'Ida and 2 more']);
  });
});

it('takes of a saved filter what can be asked of marks', () => {
  expect(showUnder({ tagIds: [7], authorIds: [3], sentiments: ['mixed'], starred: true, reviewed: true, sourceKinds: ['diary'] })).toEqual({
    tags: [7],
    by: [3],
    felt: ['mixed'],
    only: ['starred', 'chosen'],
  });
  expect(showUnder({ participantIds: [1] })).toBeUndefined();
});
