import { useEffect, useLayoutEffect, type RefObject } from 'react';
import type { TextRange } from '@/mark/observations/place';
import { cover, paint, type Pane } from './positions';

interface Given {
  pane: Pane;
  root: RefObject<HTMLDivElement | null>;
  /** Changes when other turns come into the page, or are drawn in another way. */
  drawn: string;
  text: string;
  selected: TextRange | null;
  highlighted: TextRange | null;
  covered: readonly TextRange[];
}

/** Paints what is selected, what is looked at and what is masked over the words of a pane, and takes it off with the pane. */
export function usePainted({ pane, root, drawn, text, selected, highlighted, covered }: Given) {
  const [start, end] = [selected?.start, selected?.end];
  useLayoutEffect(
    () => paint('selection', pane, root.current, start === undefined || end === undefined ? [] : [{ start, end }]),
    [start, end, text, drawn, pane, root],
  );
  useLayoutEffect(() => paint('focus', pane, root.current, highlighted ? [highlighted] : []), [highlighted, text, drawn, pane, root]);
  useLayoutEffect(() => cover(pane, root.current, covered), [covered, text, drawn, pane, root]);
  useEffect(
    () => () => {
      cover(pane, null, []);
      paint('selection', pane, null, []);
      paint('focus', pane, null, []);
    },
    [pane],
  );
}
