import { useEffect, useSyncExternalStore } from 'react';

interface Holder {
  name: string;
  inHand: readonly number[];
}

/** So long one's choice has to rest before the others are told, in ms. */
const rest = 120;
/** Of more than these the others see the first: what is told is short. */
const most = 500;

let others: ReadonlyMap<number, string> = new Map();
let mine: readonly number[] = [];
let tell: (observationIds: readonly number[]) => unknown = () => undefined;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

/** What people in the same study have in hand: told over the live line, by ids alone. */
export const inHand = {
  /** How the others are told. */
  through: (line: typeof tell) => void (tell = line),
  /** Tells it again, to a line that has begun anew. */
  sayAgain: () => {
    if (mine.length > 0) tell(mine);
  },
  heard: (people: readonly Holder[]) => {
    others = new Map(people.flatMap((p) => p.inHand.map((id) => [id, p.name] as const)));
    for (const listener of listeners) listener();
  },
};

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Which observations others have in hand, with the name of who has them. */
export const useOthersInHand = () => useSyncExternalStore(subscribe, () => others);

/** Tells the others what one has in hand, until the page is left. */
export function useInHand(observationIds: readonly number[]) {
  const key = observationIds.slice(0, most).join(' ');
  useEffect(() => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      const now = key === '' ? [] : key.split(' ').map(Number);
      if (now.length === 0 && mine.length === 0) return;
      mine = now;
      tell(mine);
    }, rest);
  }, [key]);
  useEffect(
    () => () => {
      clearTimeout(timer);
      if (mine.length === 0) return;
      mine = [];
      tell(mine);
    },
    [],
  );
}
