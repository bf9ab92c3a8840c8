import { describe, expect, it } from 'vitest';
import { listed, type Note } from './listed';
import { shownNotes } from './noteWrites';

const note = (id: number, more: Partial<Note>): Note => ({
  on: 'marginNote',
  id,
  sourceId: 1,
  anchor: { kind: 'text', start: 0, end: 4 },
  words: '',
  quote: '',
  participantId: null,
  unsure: false,
  createdById: 1,
  createdBy: 'Ida',
  createdAt: '',
  tagIds: [],
  ...more,
});

describe('the list of notes', () => {
  const notes = [
    note(1, { words: 'Which café?', participantId: 3 }),
    note(2, { on: 'observation', quote: 'the lamp', unsure: true, createdById: 2 }),
    note(3, { unsure: true, sourceId: 2 }),
  ];
  const ids = (listing: Parameters<typeof listed>[1]) => listed(notes, listing).map((n) => n.id);
  it('takes all conditions together, words of the note or of what it stands on', () => {
    expect(ids({})).toEqual([1, 2, 3]);
    expect(ids({ kind: 'margin' })).toEqual([1, 3]);
    expect(ids({ kind: 'unsure' })).toEqual([2, 3]);
    expect(ids({ words: ' CAFE ' })).toEqual([1]);
    expect(ids({ words: 'lamp' })).toEqual([2]);
    expect(ids({ kind: 'margin', words: 'lamp' })).toEqual([]);
  });
});

describe('margin notes that wait to be sent', () => {
  const stored = [
    {
      id: 7,
      sourceId: 1,
      anchor: { kind: 'text', start: 4, end: 9 },
      words: 'There',
      unsure: false,
      found: false,
      version: 1,
      createdById: 1,
      createdBy: 'Ida',
      createdAt: '',
    },
  ] as const;
  const waiting = (shown: unknown) => [{ shown }] as never;
  it('are shown at once in their place, and once when they are back', () => {
    const make = { note: 'make', sourceId: 1, id: -5, start: 0, end: 2, words: 'New', unsure: true };
    expect(shownNotes(stored, waiting(make), 1).map((n) => n.words)).toEqual(['New', 'There']);
    expect(shownNotes(stored, waiting({ ...make, start: 4, end: 9, words: 'There' }), 1)).toHaveLength(1);
    expect(shownNotes(stored, waiting(make), 2)).toHaveLength(1);
  });
  it('are gone at once when they are removed or become observations', () => expect(shownNotes(stored, waiting({ note: 'gone', id: 7 }), 1)).toEqual([]));
});
