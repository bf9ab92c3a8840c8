import { useLayoutEffect, useRef, type RefObject } from 'react';
import { placeBelow } from './positions';

/** The reading caret: the text is not editable, so the browser draws none. */
export function Caret({ root, at, layout }: { root: RefObject<HTMLDivElement | null>; at: number; layout: number }) {
  const self = useRef<HTMLSpanElement>(null);
  useLayoutEffect(() => {
    const place = root.current && placeBelow(root.current, { start: at, end: at });
    if (!place || !self.current) return;
    self.current.style.left = `${place.left - 1}px`;
    self.current.style.top = `${place.top - 23}px`;
    self.current.scrollIntoView({ block: 'nearest' });
  }, [root, at, layout]);
  return <span ref={self} aria-hidden className="pointer-events-none absolute h-[22px] w-[2px] scroll-my-16 bg-verdigris" />;
}
