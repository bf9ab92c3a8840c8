import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useState, type Ref, type RefObject } from 'react';

/** What a row of a long table carries, so that its height is known and it says which row it is. */
export interface RowInView {
  ref: Ref<HTMLTableRowElement>;
  'data-index': number;
  'aria-rowindex': number;
}

/** Which rows of a long table are in view, and a little around it. The table stands in a page that scrolls as a whole (`data-scrolls`). */
export function useRowsInView(table: RefObject<HTMLTableElement | null>, rows: number, height: number, keyOf: (row: number) => string | number) {
  const [top, setTop] = useState(0);
  const scroll = () => table.current?.closest<HTMLElement>('[data-scrolls]') ?? null;
  // eslint-disable-next-line react-hooks/incompatible-library -- it tells of every change by rendering anew
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: scroll,
    estimateSize: () => height,
    getItemKey: keyOf,
    scrollMargin: top,
    overscan: 12,
    initialRect: { width: 1200, height: 800 },
  });
  // What stands over the table grows and shrinks with any change of the page.
  // eslint-disable-next-line react-hooks/exhaustive-deps -- after every rendering; the same number changes nothing
  useLayoutEffect(() => {
    const around = scroll();
    const body = table.current?.tHead;
    if (around && body) setTop(Math.round(body.getBoundingClientRect().bottom - around.getBoundingClientRect().top + around.scrollTop));
  });
  const shown = virtual.getVirtualItems();
  return {
    rows: shown.map((item) => item.index),
    before: shown.length === 0 ? 0 : shown[0]!.start - top,
    after: shown.length === 0 ? 0 : virtual.getTotalSize() - (shown.at(-1)!.end - top),
    measure: virtual.measureElement,
  };
}
