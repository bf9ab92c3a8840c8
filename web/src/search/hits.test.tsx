// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { HitWords } from '@/parts/HitWords';
import { foundKinds, foundWords, placeOf, type Hit } from './hits';

const hit = (more: Partial<Hit>): Hit => ({
  kind: 'study',
  id: 7,
  studyId: 3,
  studyTitle: 'Boarding',
  sourceId: null,
  name: '',
  words: '',
  marks: [],
  at: null,
  ...more,
});
afterEach(cleanup);

describe('a hit', () => {
  it('leads to its own place', () => {
    expect(placeOf(hit({ kind: 'text', sourceId: 7, at: 120 }))).toMatchObject({ params: { studyId: 3 }, search: { source: 7, place: 120 } });
    expect(placeOf(hit({ kind: 'observation', sourceId: 4 }))).toMatchObject({ search: { source: 4, at: 7 } });
    expect(placeOf(hit({ kind: 'source' }))).toMatchObject({ search: { source: 7 } });
    expect(placeOf(hit({ kind: 'insight' }))).toMatchObject({ params: { studyId: 3, insightId: 7 } });
    expect(placeOf(hit({ kind: 'theme' }))).toMatchObject({ params: { themeId: 7 } });
    expect(placeOf(hit({ kind: 'tag', studyId: null }))).toMatchObject({ to: '/tags', search: { tag: 7 } });
    expect(placeOf(hit({ kind: 'exhibit', studyId: null }))).toMatchObject({ params: { exhibitId: 7 } });
  });

  it('of every kind has a place and a name', () => {
    for (const kind of foundKinds) {
      expect(placeOf(hit({ kind })).to).toBeTruthy();
      expect(foundWords[kind]).toBeTruthy();
    }
  });

  it('shows what was found in its words, and every word once', () => {
    const words = 'The boat is cancelled, cancelled again.';
    const marks = [
      { start: 12, end: 21, length: 9 },
      { start: 23, end: 32, length: 9 },
    ];
    const { container } = render(<HitWords hit={hit({ words, marks })} />);
    expect(container.textContent).toBe(words);
    expect(screen.getAllByText('cancelled').map((e) => e.tagName)).toEqual(['MARK', 'MARK']);
  });
});
