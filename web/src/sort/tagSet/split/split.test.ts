import { describe, expect, it } from 'vitest';
import { decided, freeKey, inTray, next, peopleSoFar, takenBack, type Split } from './split';

const split = {
  observations: [11, 12, 13, 14],
  people: [1, 1, 2, null],
  trays: [
    { number: 1, tagId: null, name: 'a' },
    { number: 2, tagId: 5, name: 'b' },
  ],
  decisions: [],
} as unknown as Split;

describe('the split desk', () => {
  it('goes from one to the next that is not decided, and around the end', () => {
    expect(next(split, 'open', null)).toBe(11);
    const after = decided(decided(split, [11], 'trays', [1]), [13], 'wide', []);
    expect(next(after, 'open', 11)).toBe(12);
    expect(next(after, 'open', 14)).toBe(12);
    expect(next(decided(after, [12, 14], 'unsure', []), 'open', 14)).toBeNull();
  });
  it('goes through what was unsure, and ends there', () => {
    const after = decided(split, [11, 13], 'unsure', []);
    expect(next(after, 'unsure', null)).toBe(11);
    expect(next(after, 'unsure', 11)).toBe(13);
    expect(next(decided(after, [13], 'trays', [2]), 'unsure', 11)).toBeNull();
  });
  it('takes back what was decided at once, and no more', () => {
    const after = decided(decided(split, [11], 'trays', [1]), [12, 13], 'unsure', []);
    const back = takenBack(after);
    expect(back.of).toBe(12);
    expect(back.split.decisions.map((d) => d.observationId)).toEqual([11]);
    expect(takenBack(takenBack(back.split).split)).toEqual({ split, of: null });
  });
  it('counts people of what is decided, and shows what lies in a tray, the latest first', () => {
    const after = decided(decided(split, [11, 12, 14], 'trays', [1]), [12], 'trays', [1, 2]);
    expect(peopleSoFar(after)).toBe(1);
    expect(inTray(after, 1)).toEqual([12, 14, 11]);
    expect(inTray(after, 2)).toEqual([12]);
    expect(freeKey(split)).toBe(3);
  });
});
