import { useEffectEvent, useLayoutEffect, useRef, type KeyboardEvent, type RefObject } from 'react';
import { noKey, pressed, type Action, type ActionList } from './actions';

/** Something that can be done on the page as it stands. */
export interface Announced {
  action: Action<never>;
  /** Does it; null while it cannot be done. */
  run: (() => void) | null;
}

/** What can be done in a part of the page, by its title. */
export interface AnnouncedList {
  title: string;
  actions: readonly Announced[];
}

interface Standing {
  list: ActionList<never>;
  on: () => unknown;
}

/** All lists of what stands on the page, the nearest first. */
let standing: readonly Standing[] = [];

/** What can be done on the page as it stands now, the nearest part first. Of two parts of the same kind the one that was used last counts. */
export function announced(): readonly AnnouncedList[] {
  const seen = new Set<string>();
  const inOrder = [...standing.filter((s) => !s.list.last), ...standing.filter((s) => s.list.last)];
  return inOrder.flatMap(({ list, on }) => {
    if (seen.has(list.title)) return [];
    seen.add(list.title);
    const now = on() as never;
    const can = (action: Action<never>) => now !== null && (!action.when || action.when(now));
    return [
      {
        title: list.title,
        actions: Object.values(list.actions).map((action) => ({
          action,
          run: action.byKey || !can(action) ? null : () => void action.run(now, noKey),
        })),
      },
    ];
  });
}

function useStanding<On>(list: ActionList<On>, on: On | null, root?: RefObject<HTMLElement | null>) {
  const latest = useRef(on);
  useLayoutEffect(() => {
    latest.current = on;
  });
  useLayoutEffect(() => {
    const one: Standing = { list: list as ActionList<never>, on: () => latest.current };
    standing = [...standing, one];
    const used = () => {
      standing = [one, ...standing.filter((s) => s !== one)];
    };
    const part = root?.current;
    part?.addEventListener('focusin', used);
    return () => {
      standing = standing.filter((s) => s !== one);
      part?.removeEventListener('focusin', used);
    };
  }, [list, root]);
}

/** Keys heard wherever the focus is. What they do is always that of what stands on the page, never of what stood there a moment before. */
function useDocumentKeys(listen: (event: globalThis.KeyboardEvent) => void) {
  const heard = useEffectEvent(listen);
  // With the page, not a moment after it: what is seen takes its keys.
  useLayoutEffect(() => {
    const hear = (event: globalThis.KeyboardEvent) => heard(event);
    document.addEventListener('keydown', hear);
    return () => document.removeEventListener('keydown', hear);
  }, []);
}

/** What can be done on a page, wherever the focus is; `on` is what it is done with, null while nothing can be done. A dialog over the page has its own keys. */
export function usePageActions<On>(list: ActionList<On>, on: On | null, { inDialogs = false } = {}) {
  useStanding(list, on);
  useDocumentKeys((event) => {
    if (on === null || (!inDialogs && (event.target as Element).closest?.('[role="dialog"]'))) return;
    pressed(list, on, event);
  });
}

/** What can be done in a part of a page while the focus is in it: gives what the part does with keys. */
export function usePartActions<On>(list: ActionList<On>, on: On | null, root: RefObject<HTMLElement | null>) {
  useStanding(list, on, root);
  return (event: KeyboardEvent) => on !== null && pressed(list, on, event);
}

/** Makes known what can be done with each row of a list; the rows hear their keys themselves, with `pressed`. */
export function useRowActions<On>(list: ActionList<On>) {
  useStanding(list, null);
}
