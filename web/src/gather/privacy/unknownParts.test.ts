import { expect, test } from 'vitest';
import { unknownParts } from './unknownParts';

type Source = Parameters<typeof unknownParts>[0];

const text = 'They wait.\n\nRose: It was late.\n\nMan: Every day.';
const turn = (start: number, end: number, speakerId: number | null) => ({ start, end, speakerId });
const of = (turns: object[], speakers: object[]) =>
  unknownParts({ text, turns, line: { speakers } } as unknown as Source).map((p) => text.slice(p.start, p.end));

test('what nobody is known to have said can be ticked, and nothing else', () => {
  const speakers = [
    { id: 1, participantId: 4, isTeam: false },
    { id: 2, participantId: null, isTeam: false },
    { id: 3, participantId: null, isTeam: true },
  ];
  expect(of([turn(0, 10, null), turn(18, 30, 1), turn(37, 47, 2)], speakers)).toEqual(['They wait.', 'Every day.']);
  expect(of([turn(0, 10, 3)], speakers)).toEqual([]);
});

test('notes without turns are ticked paragraph by paragraph', () => {
  expect(of([], [])).toEqual(['They wait.', 'Rose: It was late.', 'Man: Every day.']);
});
