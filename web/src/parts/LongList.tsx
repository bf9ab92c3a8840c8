import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';

interface Props<T> {
  label: string;
  items: readonly T[];
  keyOf: (item: T) => number;
  /** What an item's height is about, in pixels, before it is measured. */
  height: number;
  /** Space between items, in pixels. */
  gap?: number;
  className?: string;
  /** How many there are in all, when the items are those that were fetched so far. */
  total?: number;
  /** The end of the items comes near. */
  onNearEnd?: () => void;
  children: (item: T, index: number) => ReactNode;
}

const near = 20;

/** A list that may be long: only what is in view, and a little around it, is in the page. */
export function LongList<T>({ label, items, keyOf, height, gap = 0, className = '', total = items.length, onNearEnd, children }: Props<T>) {
  const scroll = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- it tells of every change by rendering anew
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => height,
    getItemKey: (index) => keyOf(items[index]!),
    gap,
    overscan: 8,
    initialRect: { width: 400, height: 700 },
  });
  const shown = virtual.getVirtualItems();
  const last = shown.at(-1)?.index ?? -1;
  useEffect(() => {
    if (items.length < total && last >= items.length - near) onNearEnd?.();
  }, [last, items.length, total, onNearEnd]);
  return (
    <div ref={scroll} className={`overflow-y-auto ${className}`} tabIndex={0} role="region" aria-label={label}>
      <ul className="relative" style={{ height: virtual.getTotalSize() }}>
        {shown.map(({ index, start, key }) => (
          <li
            key={key}
            ref={virtual.measureElement}
            data-index={index}
            aria-posinset={index + 1}
            aria-setsize={total}
            className="absolute inset-x-0"
            style={{ top: start }}
          >
            {children(items[index]!, index)}
          </li>
        ))}
      </ul>
    </div>
  );
}
