/** Marks near each other on the ruler, drawn as one tick. */
export interface Tick {
  /** Where, from 0 at the beginning of the text to 1 at its end. */
  at: number;
  count: number;
  colour: string;
}

/** Ticks on the whole ruler, at most. */
const places = 240;

/** The ticks of a source's marks; where several fall on one place, the tick has the colour of the first and tells how many. */
export function ticksOf(marks: readonly { start: number; tagIds: readonly number[] }[], length: number, colourOf: (tagId: number) => string): Tick[] {
  const ticks = new Map<number, Tick>();
  for (const mark of marks) {
    const place = Math.min(places - 1, Math.floor((mark.start / Math.max(1, length)) * places));
    const there = ticks.get(place);
    const [first] = mark.tagIds;
    if (there) there.count++;
    else ticks.set(place, { at: place / places, count: 1, colour: first === undefined ? 'var(--ink-soft)' : colourOf(first) });
  }
  return [...ticks.values()];
}
