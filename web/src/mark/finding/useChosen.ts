import { useState } from 'react';
import { upTo } from './looking';

/**
 * What of a list is chosen: one by one, from the last one on, or all.
 * @param of What the list is of; of another list nothing is chosen.
 */
export function useChosen<K extends string | number, T>(of: string) {
  const [held, setHeld] = useState<{ of: string; chosen: ReadonlyMap<K, T>; last: number | null }>({ of, chosen: new Map(), last: null });
  const { chosen, last } = held.of === of ? held : { chosen: new Map<K, T>(), last: null };
  return {
    chosen,
    set: (all: Iterable<readonly [K, T]>) => setHeld({ of, chosen: new Map(all), last }),
    none: () => setHeld({ of, chosen: new Map(), last: null }),
    choose: (list: readonly (readonly [K, T])[], index: number, range: boolean) => {
      const next = new Map(chosen);
      const on = !next.has(list[index]![0]);
      for (const [key, one] of range ? upTo(list, last, index) : [list[index]!]) {
        if (range || on) next.set(key, one);
        else next.delete(key);
      }
      setHeld({ of, chosen: next, last: index });
    },
  };
}
