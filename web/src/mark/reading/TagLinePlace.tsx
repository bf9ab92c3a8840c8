import { useEffect, useLayoutEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import type { TextRange } from '@/mark/observations/place';
import { placeBelow } from './positions';

const lineWidth = 430;

/** Right under the last line of the stretch, kept inside the column. */
export function TagLinePlace({ root, stretch, children }: { root: RefObject<HTMLDivElement | null>; stretch: TextRange; children: ReactNode }) {
  const [place, setPlace] = useState<{ left: number; top: number } | null>(null);
  useLayoutEffect(() => {
    const below = root.current && placeBelow(root.current, stretch);
    // eslint-disable-next-line react-hooks/set-state-in-effect -- where the words stand is known only after layout
    if (below) setPlace({ left: Math.max(16, Math.min(below.left, root.current!.clientWidth - lineWidth - 16)), top: below.top + 8 });
  }, [root, stretch.start, stretch.end]); // eslint-disable-line react-hooks/exhaustive-deps -- the stretch is its two ends
  const self = useRef<HTMLDivElement>(null);
  useEffect(() => {
    self.current?.scrollIntoView({ block: 'nearest' });
  }, [place]);
  return (
    <div ref={self} className="absolute z-20 scroll-my-3" style={place ?? { visibility: 'hidden' }}>
      {place && children}
    </div>
  );
}
