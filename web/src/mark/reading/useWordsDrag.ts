import { useDraggable } from '@dnd-kit/core';
import { useCallback, useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import type { TextRange } from '@/mark/observations/place';
import type { ShownWords } from '@/mark/observations/writes';
import { offer, type Dragged, type Onto, type Reader } from './dragging';
import { positionAt, type Pane } from './positions';

/** What stands over the words and is no part of them. */
export const laidOver = 'button, [data-testid="tag-line"], [data-testid="note-field"], [role="toolbar"]';

interface Given {
  root: RefObject<HTMLDivElement | null>;
  pane: Pane;
  text: string;
  sentences: readonly TextRange[];
  /** What is selected. */
  stretch: TextRange | null;
  observations: readonly ShownWords[];
  /** What becomes of words, or of a mark, where they are dropped. */
  ontoOf: (what: TextRange | ShownWords) => Onto;
  /** A tag is over something of the text. */
  onAim: (at: TextRange | null) => void;
}

/** The text as what tags are dropped on, and its selection and marks as what is dragged. */
export function useWordsDrag({ root, pane, text, sentences, stretch, observations, ontoOf, onAim }: Given) {
  /** What a tag would be given to at a point: the mark whose label is there, the selection, or the sentence. */
  const targetAt = (x: number, y: number): TextRange | ShownWords | null => {
    const label = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-mark]');
    if (label) return observations.find((o) => o.id === Number(label.dataset['mark'])) ?? null;
    const position = positionAt(x, y);
    if (position === null) return null;
    if (stretch && stretch.start <= position && position < stretch.end) return stretch;
    return sentences.find((s) => s.start <= position && position < s.end) ?? null;
  };
  const reader = useRef<Reader | null>(null);
  useEffect(() => {
    reader.current = {
      aim: (at) => onAim(at && targetAt(at.x, at.y)),
      drop: (at, tagId) => {
        const target = targetAt(at.x, at.y);
        if (target) ontoOf(target).tag(tagId);
      },
    };
  });
  useEffect(() => offer(root.current!, { aim: (at) => reader.current?.aim(at), drop: (at, tagId) => reader.current?.drop(at, tagId) }), [root]);
  // One thing to drag for the whole text: what was grabbed last. A label of its own for each would cost every frame of scrolling.
  const [grabbedMark, setGrabbedMark] = useState<ShownWords | null>(null);
  const grabbedWords = grabbedMark ?? stretch;
  const { listeners, setNodeRef: setGrip } = useDraggable({
    id: `words ${pane}`,
    data: {
      drags: 'words',
      name: grabbedWords ? text.slice(grabbedWords.start, grabbedWords.end) : '',
      onto: ontoOf(grabbedWords ?? { start: 0, end: 0 }),
    } satisfies Dragged,
  });
  const grabbed = useRef(false);
  const grip = useRef<HTMLSpanElement | null>(null);
  const grab = (event: PointerEvent<HTMLDivElement>) => {
    const target = event.target as HTMLElement;
    const label = target.closest<HTMLElement>('[data-mark]');
    const mark = label ? (observations.find((o) => o.id === Number(label.dataset['mark'])) ?? null) : null;
    const at = !mark && stretch && stretch.end > stretch.start && !target.closest(laidOver) ? positionAt(event.clientX, event.clientY) : null;
    grabbed.current = at !== null && stretch!.start <= at && at < stretch!.end;
    if (event.button !== 0 || (!grabbed.current && !mark)) return;
    setGrabbedMark(mark);
    // Words have no element of their own to be dragged by.
    Object.assign(grip.current!.style, { left: `${event.clientX}px`, top: `${event.clientY}px` });
    (listeners?.['onPointerDown'] as ((e: PointerEvent) => void) | undefined)?.(event);
  };
  return {
    grab,
    /** Whether the selection is held, so that the browser is not to select anew. */
    holds: () => grabbed.current,
    grip: useCallback(
      (span: HTMLSpanElement | null) => {
        grip.current = span;
        setGrip(span);
      },
      [setGrip],
    ),
  };
}
