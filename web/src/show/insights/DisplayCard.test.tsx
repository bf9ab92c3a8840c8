// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import type { Schemas } from '@/api/client';
import { factWords } from '@/parts/factWords';
import { DisplayCard } from './DisplayCard';

afterEach(cleanup);
const facts = (more: Partial<Schemas['EvidenceFacts']> = {}): Schemas['EvidenceFacts'] => ({
  level: 'corroborated',
  peopleFor: 6,
  peopleAgainst: 1,
  supporting: 8,
  contradicting: 1,
  context: 0,
  unattributed: 0,
  sources: 5,
  kinds: 3,
  studies: 1,
  largestShare: 0.25,
  ...more,
});

describe('what an evidence level is made of', () => {
  it('says people for, of how many, against, and kinds', () =>
    expect(factWords(facts(), 8, null)).toEqual(['6 of 8 people say so', '1 says otherwise', '3 kinds of source']));
  it('warns when most of it comes from one person', () =>
    expect(factWords(facts({ peopleFor: 1, peopleAgainst: 0, kinds: 1, largestShare: 1 }), 8, null)).toEqual([
      '1 of 8 people say so',
      '1 kind of source',
      '100 % of it from one person',
    ]));
  it('does not warn over two or three observations', () =>
    expect(factWords(facts({ supporting: 2, largestShare: 1 }), 8, null).join()).not.toContain('one person'));
  it('says nothing of what is not there', () => expect(factWords(facts({ peopleFor: 0, peopleAgainst: 0, kinds: 0, supporting: 0 }), 8, null)).toEqual([]));
});

it('shows the level in words and the strip beside it', () => {
  render(
    <DisplayCard
      headline="They hear too late"
      facts={facts({ level: 'singleVoice' })}
      people={[{ id: 1, pseudonym: 'Wren' }]}
      breadth={{ strip: [2], against: [0], asked: [true] }}
      outOf={1}
      newest="2026-11-07"
    />,
  );
  expect(screen.getByRole('heading').textContent).toBe('They hear too late');
  expect(screen.getByText('Single voice').title).toContain('support from one person');
  expect(screen.getByRole('img', { name: 'People: Wren: 2 observations' })).toBeTruthy();
});
