interface Stretching {
  start: number;
  end: number;
}

/** What touches each turn, in its order: of turn number n, all items that share a unit with it. Turns and items come ordered by their starts. */
export function byTurn<T extends Stretching>(turns: readonly Stretching[], items: readonly T[]): readonly (readonly T[])[] {
  const found: T[][] = turns.map(() => none as T[]);
  let first = 0;
  for (const item of items) {
    while (first < turns.length && turns[first]!.end <= item.start) first++;
    for (let n = first; n < turns.length && turns[n]!.start < item.end; n++) {
      if (found[n] === none) found[n] = [];
      found[n]!.push(item);
    }
  }
  return found;
}

// One empty list for all turns that nothing touches, so that they are seen to be as they were.
const none: unknown[] = [];
