import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useMemo, useRef, type RefObject } from 'react';
import type { Schemas } from '@/api/client';

type Turn = Schemas['StoredTurn'];

// What a turn is thought to be high before it has been laid out, in CSS pixels.
const lettersInLine = 66;
const line = 28;
const gap = 28;

/** Turns kept in the page above and below what is in view. */
const beside = 4;

/** The space above the first turn. */
const margin = 28;

/** Which turns are in the page: those in view and some beside them. The rest is empty space of their height. */
export function useTurns(root: RefObject<HTMLElement | null>, turns: readonly Turn[]) {
  // eslint-disable-next-line react-hooks/incompatible-library -- it tells of every change by rendering anew
  const virtual = useVirtualizer({
    count: turns.length,
    getScrollElement: () => root.current?.parentElement ?? null,
    estimateSize: (i) => Math.ceil((turns[i]!.end - turns[i]!.start) / lettersInLine) * line + gap,
    getItemKey: (i) => turns[i]!.start,
    overscan: beside,
    scrollMargin: margin,
    initialRect: { width: 900, height: 800 },
  });
  const shown = virtual.getVirtualItems();
  const first = shown[0];
  const last = shown.at(-1);
  const indexAt = (position: number) => {
    const after = turns.findIndex((t) => t.end >= position);
    return after < 0 ? turns.length - 1 : after;
  };
  const latest = useRef(virtual);
  useLayoutEffect(() => {
    latest.current = virtual;
  });
  const go = useMemo(
    () => (position: number, where: 'auto' | 'center') => {
      const after = turns.findIndex((t) => t.end >= position);
      latest.current.scrollToIndex(after < 0 ? turns.length - 1 : after, { align: where });
    },
    [turns],
  );
  return {
    shown: shown.map((item) => ({ turn: turns[item.index]!, index: item.index, top: item.start - margin })),
    height: virtual.getTotalSize(),
    measure: virtual.measureElement,
    /** Changes whenever other turns come into the page. */
    range: `${first?.index ?? 0} ${last?.index ?? 0}`,
    /** From where to where the text is in view. */
    inView: { from: turns[virtual.range?.startIndex ?? 0]?.start ?? 0, to: turns[virtual.range?.endIndex ?? 0]?.end ?? 0 },
    /** The last turn in view. */
    lastInView: virtual.range?.endIndex ?? -1,
    inPage: (position: number) => {
      const at = indexAt(position);
      return first !== undefined && at >= first.index && at <= last!.index;
    },
    /** Brings the turn of a position into view. */
    go,
  };
}
