import type { Schemas } from '@/api/client';
import type { NewWaiting, Waiting } from '@/api/waiting/waiting';
import { writeTo } from '@/api/waiting/writeTo';
import { ownNumber, shortened } from '@/api/waiting/making';
import type { TextRange } from '@/mark/observations/place';

/** A margin note on a text as it is shown: what the server has, with what waits to be sent laid over it. */
export interface ShownNote extends Omit<Schemas['MarginNote'], 'anchor'> {
  start: number;
  end: number;
  waits?: boolean;
}

/** A write about margin notes, as far as it changes what is shown. */
export type NoteWrite =
  | ({ note: 'make'; sourceId: number; id: number; words: string; unsure: boolean } & TextRange)
  | { note: 'unsure'; id: number; unsure: boolean }
  | { note: 'gone'; id: number };

type New = NewWaiting<NoteWrite>;

export const noteWrites = {
  make: (sourceId: number, stretch: TextRange, words: string, unsure: boolean, basedOn: string): New => {
    const makes = ownNumber();
    return writeTo(
      'post',
      '/api/sources/{id}/margin-notes',
      { id: sourceId },
      { anchor: { kind: 'text', start: stretch.start, end: stretch.end }, words, unsure, basedOn },
      {
        what: `Write the margin note “${shortened(words)}”`,
        makes,
        shown: { note: 'make', sourceId, id: makes, ...stretch, words, unsure },
      },
    );
  },
  unsure: (id: number, unsure: boolean): New =>
    writeTo(
      'put',
      '/api/margin-notes/{id}/unsure',
      { id },
      { unsure },
      { what: unsure ? 'Mark a margin note as unsure' : 'Mark a margin note as sure', shown: { note: 'unsure', id, unsure } },
    ),
  remove: (studyId: number, id: number): New =>
    writeTo(
      'post',
      '/api/studies/{studyId}/margin-notes/remove',
      { studyId },
      { marginNoteIds: [id] },
      { what: 'Remove a margin note', shown: { note: 'gone', id } },
    ),
  turn: (studyId: number, ids: number[], tagIds: number[], newTags: string[]): New =>
    writeTo(
      'post',
      '/api/studies/{studyId}/margin-notes/observations',
      { studyId },
      { marginNoteIds: ids, tagIds, newTags },
      {
        what: ids.length === 1 ? 'Turn a margin note into an observation' : `Turn ${ids.length} margin notes into observations`,
        ...(ids.length === 1 ? { shown: { note: 'gone', id: ids[0]! } } : {}),
      },
    ),
};

const isNoteWrite = (shown: unknown): shown is NoteWrite => typeof shown === 'object' && shown !== null && 'note' in shown;
const blank = { version: 0, createdById: 0, createdBy: '', createdAt: '' };

/** A source's margin notes on its text with the waiting writes laid over them, in text order. */
export function shownNotes(notes: readonly Schemas['MarginNote'][], waiting: readonly Waiting[], sourceId: number): ShownNote[] {
  let shown: ShownNote[] = notes.flatMap(({ anchor, ...rest }) => (anchor.kind === 'text' ? [{ ...rest, start: anchor.start, end: anchor.end }] : []));
  for (const write of waiting.map((w) => w.shown).filter(isNoteWrite)) {
    if (write.note === 'make') {
      // Its own, come back from the server.
      if (write.sourceId !== sourceId || shown.some((n) => n.id === write.id || (n.start === write.start && n.end === write.end && n.words === write.words)))
        continue;
      const { id, start, end, words, unsure } = write;
      shown.push({ ...blank, id, sourceId, start, end, words, unsure, waits: true });
    } else if (write.note === 'unsure') shown = shown.map((n) => (n.id === write.id ? { ...n, unsure: write.unsure, waits: true } : n));
    else shown = shown.filter((n) => n.id !== write.id);
  }
  return shown.toSorted((a, b) => a.start - b.start || a.id - b.id);
}
