import { describe, expect, it } from 'vitest';
import { aliasThatFits, findTags, fitsWell, fold, isCalled, readTyped, sameName, tellingPhrase, withColour } from './findTags';

const tags = ['learnt on the quay', 'told by neighbours', 'too late to act', 'queue', 'freight left behind', 'freight rules unclear', 'café talk'].map(
  (name, i) => ({ id: i + 1, name }),
);
const names = (typed: string, recent: number[] = [], most?: number) => findTags(tags, typed, recent, most).map((t) => t.name);

describe('finding tags while typing', () => {
  it('finds any word of the name by its beginning', () => {
    expect(names('quay')).toEqual(['learnt on the quay']);
    expect(names('lat')[0]).toBe('too late to act');
  });
  it('puts the whole name before its beginning, and that before a word inside', () => {
    expect(names('queue')[0]).toBe('queue');
    expect(names('fre').slice(0, 2)).toEqual(['freight left behind', 'freight rules unclear']);
  });
  it('finds typed words in any order and letters with gaps', () => {
    expect(names('behind freight')).toEqual(['freight left behind']);
    expect(names('tldnb')).toEqual(['told by neighbours']);
  });
  it('takes no word from the middle of another for a fit', () => {
    expect(fitsWell({ name: 'Getting aboard' }, 'in a tin')).toBe(false);
    expect(fitsWell({ name: 'freight left behind' }, 'left fre')).toBe(true);
  });
  it('folds case and accents', () => {
    expect(names('CAFE')).toEqual(['café talk']);
    expect(fold('Crème')).toBe('creme');
  });
  it('offers recent ones first when nothing is typed, and among equals', () => {
    expect(names('', [4, 6], 3)).toEqual(['queue', 'freight rules unclear', 'learnt on the quay']);
    expect(names('fre', [6])[0]).toBe('freight rules unclear');
  });
  it('finds a tag by its other names, and says by which', () => {
    const tag = { id: 9, name: 'told by neighbours', aliases: ['hearsay', 'word of mouth'] };
    expect(findTags([tag, { id: 10, name: 'hearing' }], 'hearsay', []).map((t) => t.id)).toEqual([9]);
    expect(aliasThatFits(tag, 'mou')).toBe('word of mouth');
    expect(aliasThatFits(tag, 'told')).toBeUndefined();
    expect(isCalled(tag, ' Hearsay ')).toBe(true);
  });
  it('finds nothing for what is not there', () => expect(names('zzz')).toEqual([]));
  it('knows one name under two spellings', () => {
    expect(sameName(' Queue', 'queue ')).toBe(true);
    expect(sameName('too  late', 'Too late')).toBe(true);
    expect(sameName('queue', 'queues')).toBe(false);
  });
  it('stays under a keystroke for a thousand tags in what it does', () => {
    const many = Array.from({ length: 1000 }, (_, id) => ({ id, name: `tag number ${id}` }));
    expect(findTags(many, 'number 99', [], 8)).toHaveLength(8);
  });
});

describe('a tag as it is typed', () => {
  it('has a name, names above it, and what it is', () => {
    const plain = { above: [], definition: '', colour: null };
    expect(readTyped('  hearing / too  late = news, when = too late ')).toEqual({
      ...plain,
      name: 'too late',
      above: ['hearing'],
      definition: 'news, when = too late',
    });
    expect(readTyped('and/or')).toEqual({ ...plain, name: 'and/or' });
    expect(readTyped('')).toEqual({ ...plain, name: '' });
  });
  it('may have a colour, which is given and taken away', () => {
    const coloured = withColour('hearing / too late = news', 4);
    expect(readTyped(coloured)).toEqual({ name: 'too late', above: ['hearing'], definition: 'news', colour: 4 });
    expect(withColour(withColour(coloured, 11), null)).toBe('hearing / too late = news');
    expect(withColour('too late', 0)).toBe('too late ●1');
  });
});

describe('the shortest telling phrase', () => {
  it('is a part between stops that says something', () => {
    expect(tellingPhrase('Well, it was always the fish box that stayed. And so it went, all of that very long day in the rain at the quay.')).toBe(
      'it was always the fish box that stayed',
    );
    expect(tellingPhrase('Nobody tells you.')).toBe('Nobody tells you');
    expect(tellingPhrase('Yes.')).toBe('Yes');
    expect(tellingPhrase('')).toBe('');
  });
  it('is cut between two words when there is none', () => {
    const words = 'word '.repeat(30).trim();
    expect(tellingPhrase(words).length).toBeLessThanOrEqual(60);
    expect(words.startsWith(tellingPhrase(words))).toBe(true);
    expect(tellingPhrase('w'.repeat(200))).toHaveLength(60);
  });
});
