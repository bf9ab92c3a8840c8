import { describe, expect, it } from 'vitest';
import { findTags, fitsWell, fold, sameName } from './findTags';

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
    expect(fitsWell('Getting aboard', 'in a tin')).toBe(false);
    expect(fitsWell('freight left behind', 'left fre')).toBe(true);
  });
  it('folds case and accents', () => {
    expect(names('CAFE')).toEqual(['café talk']);
    expect(fold('Crème')).toBe('creme');
  });
  it('offers recent ones first when nothing is typed, and among equals', () => {
    expect(names('', [4, 6], 3)).toEqual(['queue', 'freight rules unclear', 'learnt on the quay']);
    expect(names('fre', [6])[0]).toBe('freight rules unclear');
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
