import { describe, expect, it } from 'vitest';
import { begun, edged, moved, stopsOf, unmarked, wider } from './moves';

const text = 'Ida: How far? Really?\n\nWren: \u{1F6A2} Twenty minutes. With the pram.';
const first = { start: 5, end: 21 };
const second = { start: text.indexOf('\u{1F6A2}'), end: text.length };
const words = (part: string) => ({ start: text.indexOf(part), end: text.indexOf(part) + part.length });
const sentences = [words('How far?'), words('Really?'), words('\u{1F6A2} Twenty minutes.'), words('With the pram.')];
const stops = stopsOf(text, [first, second], { sentences, clauses: sentences });
const turns = [
  { ...first, team: true },
  { ...second, team: false },
];
const to = (unit: 'word' | 'sentence' | 'turn', from: number, on: boolean) => moved(stops, unit, from, on);
const at = (words: string) => text.indexOf(words);

describe('moving the reading caret', () => {
  it('goes on to the ends of words', () => {
    expect(to('word', first.start, true)).toBe(at('How') + 3);
    expect(to('word', at('How') + 3, true)).toBe(at('far') + 3);
  });
  it('begins a selection at the caret, or at the next turn when the caret stands before it', () => {
    expect(begun(stops, 'sentence', at('far'))).toBe(at('far'));
    expect(begun(stops, 'sentence', first.end)).toBe(second.start);
    expect(begun(stops, 'word', text.length)).toBe(text.length);
  });
  it('goes back to the starts of words', () => expect(to('word', at('far') + 1, false)).toBe(at('far')));
  it('steps over what stands between turns', () => {
    expect(to('word', at('Really') + 6, true)).toBe(at('Twenty') + 6);
    expect(to('word', at('Twenty'), false)).toBe(at('Really'));
  });
  it('knows sentences', () => {
    expect(to('sentence', first.start, true)).toBe(at('How far?') + 8);
    expect(to('sentence', text.length, false)).toBe(at('With the pram.'));
  });
  it('knows turns, and never cuts an astral character', () => {
    expect(to('turn', first.start, true)).toBe(first.end);
    expect(to('turn', text.length, false)).toBe(second.start);
    expect(to('sentence', at('Twenty'), false)).toBe(second.start);
  });
  it('stays at the ends', () => {
    expect(to('word', text.length, true)).toBe(text.length);
    expect(to('turn', first.start, false)).toBe(first.start);
  });
});

describe('growing a selection', () => {
  it('takes in the word, the sentence, the turn, and the question before it', () => {
    const wide: string[] = [];
    let at = { start: text.indexOf('inutes'), end: text.indexOf('inutes') };
    for (let next = wider(stops, turns, at); next; next = wider(stops, turns, next)) {
      wide.push(text.slice(next.start, next.end));
      at = next;
    }
    expect(wide).toEqual(['minutes', '\u{1F6A2} Twenty minutes.', '\u{1F6A2} Twenty minutes. With the pram.', text.slice(first.start)]);
    expect(wider(stops, turns, at)).toBeNull();
  });
  it('rounds a selection over two sentences to both', () =>
    expect(wider(stops, turns, { start: text.indexOf('minutes'), end: text.indexOf('With') + 4 })).toEqual({ start: second.start, end: text.length }));
});

describe('what is not marked', () => {
  const marks = [words('Twenty')];
  it('is the next sentence of a participant that no mark touches', () => {
    expect(unmarked(stops, turns, [], -1, true)).toEqual(sentences[2]);
    expect(unmarked(stops, turns, marks, -1, true)).toEqual(sentences[3]);
    expect(unmarked(stops, turns, marks, text.length, false)).toEqual(sentences[3]);
    expect(unmarked(stops, turns, [{ start: 0, end: text.length }], -1, true)).toBeNull();
  });
});

describe('moving an edge', () => {
  const minutes = words('minutes');
  it('goes by the unit, in either direction, and keeps at least a word', () => {
    expect(edged(stops, 'word', minutes, 'end', true)).toEqual({ ...minutes, end: at('With') + 4 });
    expect(edged(stops, 'word', minutes, 'start', false)).toEqual({ ...minutes, start: at('Twenty') });
    expect(edged(stops, 'sentence', minutes, 'start', false)).toEqual({ ...minutes, start: second.start });
    expect(edged(stops, 'word', minutes, 'end', false)).toBeNull();
    expect(edged(stops, 'word', minutes, 'start', true)).toBeNull();
    expect(edged(stops, 'turn', second, 'end', true)).toBeNull();
  });
});
