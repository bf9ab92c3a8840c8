import { expect, it } from 'vitest';
import { plants, proposed, unmatchedIn } from './pseudonyms';

const speaker = (label: string, turns: number, participantId: number | null = null, isTeam = false) => ({ id: 1, label, turns, participantId, isTeam });

it('gathers names that nobody is matched to over all sources, whatever their case', () => {
  const sources = [
    { speakers: [speaker('Marnie', 3), speaker('Ida', 9, null, true)] },
    { speakers: [speaker('MARNIE', 4), speaker('Bo', 20), speaker('Teal', 2, 7)] },
  ];
  expect(unmatchedIn(sources)).toEqual([
    { label: 'Bo', sources: 1, turns: 20 },
    { label: 'Marnie', sources: 2, turns: 7 },
  ]);
});

it('proposes codes and pseudonyms that are free, and no name of somebody', () => {
  const people = [{ code: 'P01', pseudonym: 'Alder' }];
  expect(proposed(['Marnie', 'P07', 'Ash', 'Bo'], people, plants)).toEqual([
    { label: 'Marnie', code: 'P02', pseudonym: 'Aster' },
    { label: 'P07', code: 'P07', pseudonym: 'Bay' },
    { label: 'Ash', code: 'P03', pseudonym: 'Birch' },
    { label: 'Bo', code: 'P04', pseudonym: 'Bracken' },
  ]);
  expect(proposed(['A b', 'C d'], [], 'Only one').map((p) => p.pseudonym)).toEqual(['Only one', '']);
});
