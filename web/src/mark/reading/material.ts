import type { ComponentType } from 'react';
import type { Schemas } from '@/api/client';
import type { TextRange } from '@/mark/observations/place';
import type { TagLook, TagUse } from '@/parts/tagLook';
import type { Pane } from './positions';
import type { TurnEditor } from './turnEditor';

/** What there is of a source to mark. */
export type Material = 'text' | 'recording' | 'picture';

/** What every kind of material is given; each plugs into the same place of the page. */
export interface MaterialProps {
  source: Schemas['Source'];
  sentences: Schemas['SourceSentences'];
  /** What the server has; what waits to be sent is laid over it by the material. */
  stored: readonly Schemas['Observation'][];
  /** What the server has and the show bar leaves out: it is marked all the same. */
  hidden: readonly Schemas['Observation'][];
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  people: readonly Schemas['Participant'][];
  /** The observation to begin at, from the URL. */
  at: number | undefined;
  /** The place in the text to begin at, from the URL. */
  place: number | undefined;
  pane: Pane;
  /** Mends the words of one turn where they stand. */
  turnEditor: TurnEditor;
  /** It was opened by a key: the keys go on in its text. */
  keyed: boolean;
  /** What stands still around the words while they scroll: the place for what is laid over them. */
  frame: HTMLElement | null;
  /** Words that readers are not shown; what is handed on has their replacements. Null while they are not known: nothing is handed on then. */
  masks: readonly (TextRange & { replacement: string })[] | null;
  /** Words that are covered. */
  covered: readonly TextRange[];
  /** An observation that looks for its place after a correction, from the URL. */
  putting: Schemas['ToLookAt'] | undefined;
  onPut: () => void;
}

export type MaterialView = ComponentType<MaterialProps>;

/** A source with words is read; without, its file tells what it is. */
export function materialOf(source: { text: string; line: { mediaType: string | null } }): Material {
  if (source.text !== '') return 'text';
  return source.line.mediaType?.startsWith('image/') ? 'picture' : 'recording';
}
