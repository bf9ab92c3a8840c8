import { fold } from '@/parts/findTags';
import type { Schemas } from '@/api/client';

export type Note = Schemas['Note'];
export const kinds = ['margin', 'observations', 'unsure'] as const;
export type Kind = (typeof kinds)[number];

/** Which notes are listed, beside the conditions of the page; what is left out asks for nothing. */
export interface Listing {
  kind?: Kind;
  words?: string;
}

/** The notes that are asked for, in their order. */
export function listed(notes: readonly Note[], { kind, words }: Listing): Note[] {
  const wanted = fold((words ?? '').trim());
  return notes.filter(
    (n) =>
      (kind === undefined || (kind === 'unsure' ? n.unsure : (n.on === 'marginNote') === (kind === 'margin'))) &&
      (wanted === '' || fold(`${n.words}\n${n.quote}`).includes(wanted)),
  );
}
