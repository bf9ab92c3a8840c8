import { useCallback, useSyncExternalStore } from 'react';

const told = new Map<string, Set<() => void>>();
const read = new Map<string, { text: string | null; value: unknown }>();

/** A choice of the person's that is kept on this machine. What does not fit any more is as if it had not been chosen. */
export function useKept<T>(name: string, otherwise: T, fits: (value: unknown) => value is T): [T, (next: T) => void] {
  const place = `vitrine-${name}`;
  const now = useSyncExternalStore(
    useCallback(
      (tell) => {
        if (!told.has(place)) told.set(place, new Set());
        told.get(place)!.add(tell);
        return () => told.get(place)!.delete(tell);
      },
      [place],
    ),
    () => {
      const text = localStorage.getItem(place);
      const known = read.get(place);
      if (known && known.text === text) return known.value as T;
      let value: unknown;
      try {
        value = text === null ? otherwise : JSON.parse(text);
      } catch {
        value = otherwise;
      }
      if (!fits(value)) value = otherwise;
      read.set(place, { text, value });
      return value as T;
    },
  );
  const set = useCallback(
    (next: T) => {
      localStorage.setItem(place, JSON.stringify(next));
      for (const tell of told.get(place) ?? []) tell();
    },
    [place],
  );
  return [now, set];
}
