import type { Schemas } from '@/api/client';
import type { NewWaiting, Waiting } from '@/api/waiting/waiting';
import { writeTo } from '@/api/waiting/writeTo';

/** A line as it is shown: what the server has, or what waits to be sent, as it was typed. */
export interface ShownLine {
  key: string;
  /** Null while it waits. */
  id: number | null;
  beginMs: number;
  words: string;
  starred: boolean;
  by: string;
  tagIds: readonly number[];
  waits: boolean;
}

interface LineWrite {
  line: { notesId: number; typed: string; beginMs: number };
}

export const newLine = (studyId: number, notesId: number, typed: string, beginMs: number, endMs: number): NewWaiting<LineWrite> =>
  writeTo(
    'post',
    '/api/studies/{studyId}/live-notes/{id}/lines',
    { studyId, id: notesId },
    { typed, beginMs, endMs },
    { what: `Note “${typed.slice(0, 60)}”`, shown: { line: { notesId, typed, beginMs } } },
  );

const isLine = (shown: unknown): shown is LineWrite => typeof shown === 'object' && shown !== null && 'line' in shown;

/** All lines of some notes in the order of the clock, each once: one that has arrived and that the browser still keeps is shown as it has arrived. */
export function linesShown(
  lines: readonly Schemas['LiveNotesLine'][],
  waiting: readonly Waiting[],
  notesId: number,
  me: { name: string } | null | undefined,
): ShownLine[] {
  const arrived = new Set(lines.map((l) => l.key));
  const kept = waiting.flatMap((w) => (isLine(w.shown) && w.shown.line.notesId === notesId && !arrived.has(w.key) ? [{ ...w.shown.line, key: w.key }] : []));
  return [
    ...lines.map((l) => ({ ...l, waits: false })),
    ...kept.map((w) => ({ key: w.key, id: null, beginMs: w.beginMs, words: w.typed, starred: false, by: me?.name ?? '', tagIds: [], waits: true })),
  ].sort((a, b) => a.beginMs - b.beginMs);
}
