import { useLayoutEffect, useRef, type RefObject } from 'react';
import { placeBelow } from './positions';

interface Props {
  root: RefObject<HTMLDivElement | null>;
  at: number;
  /** Changes when the text is laid out anew, or other turns are in the page. */
  layout: string;
}

/** The reading caret: the text is not editable, so the browser draws none. It comes into view when it moves, and stays where it is when the reader scrolls away. */
export function Caret({ root, at, layout }: Props) {
  const self = useRef<HTMLSpanElement>(null);
  const seen = useRef<number>(null);
  useLayoutEffect(() => {
    const place = root.current && placeBelow(root.current, { start: at, end: at });
    if (!self.current) return;
    self.current.hidden = !place;
    if (!place) return;
    self.current.style.left = `${place.left - 1}px`;
    self.current.style.top = `${place.top - 23}px`;
    if (seen.current === at) return;
    seen.current = at;
    self.current.scrollIntoView({ block: 'nearest' });
  }, [root, at, layout]);
  return <span ref={self} aria-hidden className="pointer-events-none absolute h-[22px] w-[2px] scroll-my-16 bg-verdigris" />;
}
