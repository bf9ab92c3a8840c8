/** A thread to draw: one tag of one observation. */
export interface Thread {
  observationId: number;
  start: number;
  end: number;
  colour: string;
  lane: number;
  /** It leads to a margin note. */
  dotted?: boolean;
}

interface Marked {
  id: number;
  start: number;
  end: number;
  tagIds: readonly number[];
  newTags?: readonly string[];
  dotted?: boolean;
}

/** The most threads under one line of text; more share the last lane. */
export const lanes = 4;

/**
 * Gives every tag of every observation a lane of its own wherever stretches overlap, the longer and earlier stretch nearest the words.
 * An observation without tags has one thread, in `untagged`.
 */
export function threadsOf(marks: readonly Marked[], colourOf: (tagId: number) => string, untagged: string): Thread[] {
  const threads: Thread[] = [];
  const endOfLane: number[][] = [];
  const ordered = [...marks].sort((a, b) => a.start - b.start || b.end - a.end || a.id - b.id);
  for (const mark of ordered) {
    const named = [...mark.tagIds.map(colourOf), ...(mark.newTags ?? []).map(() => 'var(--brass)')];
    const colours = named.length > 0 ? named : [untagged];
    for (const colour of colours) {
      let lane = 0;
      while (lane < lanes - 1 && (endOfLane[lane] ?? []).some((end) => end > mark.start)) lane++;
      (endOfLane[lane] ??= []).push(mark.end);
      endOfLane[lane] = endOfLane[lane]!.filter((end) => end > mark.start);
      threads.push({ observationId: mark.id, start: mark.start, end: mark.end, colour, lane, ...(mark.dotted ? { dotted: true } : {}) });
    }
  }
  return threads;
}

/** Tops of what would stand at `wanted`, pushed down so that none covers another. Given in order. */
export function stacked(items: readonly { wanted: number; height: number }[]): number[] {
  let free = -Infinity;
  return items.map(({ wanted, height }) => {
    const top = Math.max(wanted, free);
    free = top + height;
    return top;
  });
}

/** Labels that begin on one line, of which only some are shown until it is unfolded. */
export interface Folded {
  more: number;
  wanted: number;
}

/** The most labels of one line that are shown at once; of more, one fewer and what tells how many there are besides. */
export const labelsOnLine = 3;

/** Labels in order, those of a full line folded; a line that is open shows them all. */
export function folded<T extends { wanted: number }>(labels: readonly T[], isOpen: (line: readonly T[]) => boolean): (T | Folded)[] {
  const lines = new Map<number, T[]>();
  for (const label of labels) lines.set(label.wanted, [...(lines.get(label.wanted) ?? []), label]);
  return [...lines.values()].flatMap((line): (T | Folded)[] =>
    line.length <= labelsOnLine || isOpen(line)
      ? line
      : [...line.slice(0, labelsOnLine - 1), { more: line.length - labelsOnLine + 1, wanted: line[0]!.wanted }],
  );
}
