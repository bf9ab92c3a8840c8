import { describe, expect, it } from 'vitest';
import { inWords, toggled } from '@/parts/lists';
import { fits, showOf } from './show';

const o = { id: 1, tagIds: [7, 8], createdById: 3, sentiment: 'negative' as const, starred: true, unsure: false, found: false, note: '' };
const draft = (id: number) => id === 8;

describe('what is shown of the marks', () => {
  it('is everything when nothing is asked', () => expect(fits(o, undefined, draft)).toBe(true));
  it('is what has any of the tags, authors and sentiments, and all that is asked besides', () => {
    expect(fits(o, { tagIds: [9, 7] }, draft)).toBe(true);
    expect(fits(o, { tagIds: [9] }, draft)).toBe(false);
    expect(fits(o, { tagIds: [7], authorIds: [4] }, draft)).toBe(false);
    expect(fits(o, { authorIds: [3], sentiments: ['negative', 'mixed'] }, draft)).toBe(true);
    expect(fits({ ...o, sentiment: null }, { sentiments: ['negative'] }, draft)).toBe(false);
    expect(fits(o, { starred: true, drafts: true }, draft)).toBe(true);
    expect(fits(o, { starred: true, unsure: true }, draft)).toBe(false);
    expect(fits(o, { noted: true }, draft)).toBe(false);
  });
  it('is read from an address that anybody may have written', () => {
    expect(showOf({ tagIds: [7, 7, 'x', 1.5], authorIds: 'all', sentiments: ['glad'], unsure: true, noted: 'yes' })).toEqual({ tagIds: [7], unsure: true });
    expect(showOf({ tagIds: [] })).toBeUndefined();
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
  expect(showOf({ tagIds: [7], authorIds: [3], sentiments: ['mixed'], starred: true, reviewed: true, sourceKinds: ['diary'] })).toEqual({
    tagIds: [7],
    authorIds: [3],
    sentiments: ['mixed'],
    starred: true,
    reviewed: true,
  });
  expect(showOf({ participantIds: [1] })).toBeUndefined();
});
