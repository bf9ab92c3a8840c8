import { useEffectEvent, useLayoutEffect } from 'react';
import { typing } from './typing';

/** Keys heard wherever the focus is. What they do is always that of what stands on the page, never of what stood there a moment before. */
export function useDocumentKeys(listen: (event: KeyboardEvent) => void) {
  const heard = useEffectEvent(listen);
  // With the page, not a moment after it: what is seen takes its keys.
  useLayoutEffect(() => {
    const hear = (event: KeyboardEvent) => heard(event);
    document.addEventListener('keydown', hear);
    return () => document.removeEventListener('keydown', hear);
  }, []);
}

type Acts = Readonly<Partial<Record<string, (() => void) | false>>>;

/** The plain keys of a page, each with what it does: not while one types, and not what something nearer has taken. */
export function usePageKeys(acts: Acts) {
  useDocumentKeys((event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || typing(event.target)) return;
    if ((event.target as Element).closest?.('[role="dialog"]')) return;
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  });
}
