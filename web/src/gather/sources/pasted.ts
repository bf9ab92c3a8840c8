import type { Schemas } from '@/api/client';
import { isCalled } from '@/parts/findTags';
import { count } from '@/parts/words';

/** The notes that the server will make of a text: one from each line, or from each stretch between blank lines. */
export function notesIn(text: string, at: Schemas['NoteBreak']): string[] {
  const parts = at === 'line' ? text.split(/\r?\n/) : text.split(/\r?\n[ \t]*(?:\r?\n[ \t]*)+/);
  return parts.map((p) => p.trim()).filter((p) => p !== '');
}

export const tagNamesIn = (typed: string) => [...new Set(typed.split(',').map((n) => n.trim().replace(/\s+/g, ' ')))].filter((n) => n !== '');

/** Whether what was pasted are cells of a spreadsheet: two lines or more with as many tabs in each. */
export function looksLikeTable(text: string): boolean {
  const lines = text.split(/\r?\n/).filter((l) => l.trim() !== '');
  const tabs = lines.slice(0, 10).map((l) => l.split('\t').length);
  return lines.length > 1 && tabs[0]! > 1 && tabs.every((n) => n === tabs[0]);
}

/** Typed tag names as the ids of those that are there and the names of those that are not yet. */
export function tagsNamed(typed: string, tags: readonly Pick<Schemas['Tag'], 'id' | 'name'>[]) {
  const names = tagNamesIn(typed);
  return {
    known: tags.filter((t) => names.some((n) => isCalled(t, n))).map((t) => t.id),
    fresh: names.filter((n) => !tags.some((t) => isCalled(t, n))),
  };
}

/** "2 tags of the study; a new draft tag: late". */
export function tagHint(known: number, fresh: readonly string[]): string {
  const parts = [
    known > 0 && `${count(known, 'tag')} of the study`,
    fresh.length > 0 && `${fresh.length === 1 ? 'a new draft tag' : `${fresh.length} new draft tags`}: ${fresh.join(', ')}`,
  ];
  return parts.filter(Boolean).join('; ');
}
