import { useLayoutEffect, useRef, type PointerEvent, type RefObject } from 'react';
import type { TextRange } from '@/mark/observations/place';
import { placeBelow, positionAt } from './positions';

interface Props {
  root: RefObject<HTMLDivElement | null>;
  edge: 'start' | 'end';
  /** The focused observation, or where its edges are while one is dragged. */
  at: TextRange;
  /** Changes when the text is laid out anew. */
  layout: string;
  onDrag: (to: TextRange | null) => void;
  /** Where it was let go: the page may not have drawn the last move yet. */
  onDrop: (to: TextRange) => void;
}

/** One edge of the focused observation, to be dragged; keys move it too. */
export function EdgeHandle({ root, edge, at, layout, onDrag, onDrop }: Props) {
  const self = useRef<HTMLSpanElement>(null);
  const begun = useRef<TextRange | null>(null);
  const last = useRef<TextRange | null>(null);
  useLayoutEffect(() => {
    const place = root.current && placeBelow(root.current, { start: at[edge], end: at[edge] });
    if (!self.current) return;
    self.current.hidden = !place;
    if (!place) return;
    self.current.style.left = `${place.left - 6}px`;
    self.current.style.top = `${place.top - 24}px`;
  }, [root, at, edge, layout]);
  const drag = (event: PointerEvent) => {
    if (!begun.current || !self.current) return;
    // The words beneath are asked for, not the handle over them.
    self.current.style.pointerEvents = 'none';
    const position = positionAt(event.clientX, event.clientY);
    self.current.style.pointerEvents = '';
    if (position === null) return;
    const to = { ...begun.current, [edge]: position };
    if (to.start >= to.end) return;
    last.current = to;
    onDrag(to);
  };
  return (
    <span
      ref={self}
      aria-hidden
      data-edge={edge}
      className="group absolute z-10 grid h-[26px] w-3 cursor-ew-resize touch-none place-items-center group-data-selecting/text:pointer-events-none"
      onMouseUp={(e) => e.stopPropagation()}
      onPointerDown={(e) => {
        e.preventDefault();
        begun.current = { start: at.start, end: at.end };
        last.current = null;
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={drag}
      onPointerUp={() => {
        begun.current = null;
        if (last.current) onDrop(last.current);
      }}
      onPointerCancel={() => {
        begun.current = null;
        onDrag(null);
      }}
    >
      <span
        className={`h-[22px] w-[5px] border-y-2 border-verdigris group-hover:bg-wash ${edge === 'start' ? 'rounded-l-[2px] border-l-2' : 'rounded-r-[2px] border-r-2'}`}
      />
    </span>
  );
}
