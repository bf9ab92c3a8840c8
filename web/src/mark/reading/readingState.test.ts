import { describe, expect, it } from 'vitest';
import { reading, readingAt, type ReadingAction, type ReadingState } from './readingState';

const words = { anchor: 4, focus: 12 };
const given = { tagIds: [3], newTags: ['late'] };
const after = (...actions: ReadingAction[]): ReadingState => actions.reduce(reading, readingAt(undefined, undefined));

describe('reading', () => {
  it('begins at the observation or the place that the address names', () => {
    expect(readingAt(7, undefined)).toMatchObject({ focused: 7, selected: null });
    expect(readingAt(undefined, 40)).toMatchObject({ focused: null, selected: { anchor: 40, focus: 40 } });
  });

  it('opens the tag line where words are selected with the mouse, but not while an observation looks for its place', () => {
    expect(after({ do: 'selectWords', selected: words, tags: true }).tagLine).toEqual({ on: 'selection', before: null });
    expect(after({ do: 'selectWords', selected: words, tags: false }).tagLine).toBeNull();
  });

  it('puts the caret behind a mark and focuses it; a tag with a scale opens its card to ask', () => {
    const marked = after({ do: 'selectWords', selected: words, tags: true }, { do: 'marked', id: -1, end: 12, asks: false });
    expect(marked).toMatchObject({ selected: { anchor: 12, focus: 12 }, focused: -1, tagLine: null, card: null });
    expect(after({ do: 'marked', id: -1, end: 12, asks: true }).card).toEqual({ id: -1, asks: true });
  });

  it('gives back the selection and what was typed when a mark is refused', () => {
    const refused = after({ do: 'marked', id: -1, end: 12, asks: true }, { do: 'markRefused', id: -1, selected: words, given });
    expect(refused).toMatchObject({ selected: words, focused: null, card: null, tagLine: { on: 'selection', before: given } });
  });

  it('leaves what was begun meanwhile alone when an earlier mark is refused', () => {
    const refused = after({ do: 'marked', id: -1, end: 12, asks: false }, { do: 'openCard', id: 9 }, { do: 'markRefused', id: -1, selected: words, given });
    expect(refused).toMatchObject({ focused: 9, card: { id: 9, asks: false } });
  });

  it('gives back tags that an observation was refused; once closed they do not come again', () => {
    const refused = after({ do: 'tagsRefused', id: 9, given });
    expect(refused.tagLine).toEqual({ on: 9, before: given });
    expect([{ do: 'closeTagLine' } as const, { do: 'openTagLine', on: 9 } as const].reduce(reading, refused).tagLine).toEqual({ on: 9, before: null });
  });

  it('closes the card when tags are added from it', () => {
    expect(after({ do: 'openCard', id: 9 }, { do: 'openTagLine', on: 9 })).toMatchObject({ card: null, tagLine: { on: 9 } });
  });

  it('pointing at a place leaves the tag line and focuses what stands there; beside the words nothing is selected', () => {
    expect(after({ do: 'openTagLine', on: 'selection' }, { do: 'point', position: 30, on: 5 })).toMatchObject({
      tagLine: null,
      selected: { anchor: 30, focus: 30 },
      focused: 5,
    });
    expect(after({ do: 'focus', id: 5 }, { do: 'point', position: null, on: null })).toMatchObject({ selected: null, focused: 5 });
  });
});
