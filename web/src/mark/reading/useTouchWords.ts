import { useEffect, useRef, useState, type RefObject } from 'react';
import type { TextRange } from '@/mark/observations/place';
import { selectedStretch } from './positions';

/** Words selected by touch. The browser's own selection stays, so that its handles can go on: it is followed as it changes. */
export function useTouchWords(root: RefObject<HTMLElement | null>, onWords: (words: TextRange) => void) {
  const [byTouch, setByTouch] = useState(false);
  const follow = useRef(onWords);
  useEffect(() => {
    follow.current = onWords;
  });
  useEffect(() => {
    const text = root.current!;
    const begin = (event: PointerEvent) => setByTouch(event.pointerType === 'touch');
    text.addEventListener('pointerdown', begin);
    return () => text.removeEventListener('pointerdown', begin);
  }, [root]);
  useEffect(() => {
    if (!byTouch) return;
    const changed = () => {
      const words = selectedStretch(root.current!);
      if (words) follow.current(words);
    };
    document.addEventListener('selectionchange', changed);
    return () => document.removeEventListener('selectionchange', changed);
  }, [byTouch, root]);
  return byTouch;
}
