import { endsOf, type Place } from '@/mark/observations/place';

const most = 6;
/** What stands farther away than this, in characters or milliseconds, is of another place. */
const reach = 3000;

/** The tags of marks near a place, the nearest first, without those of the place itself. Both are of one kind. */
export function nearTags<P extends Place>(marks: readonly (P & { tagIds: readonly number[] })[], place: P): number[] {
  const [start, end] = endsOf(place);
  const near = marks
    .map((mark) => ({ mark, at: endsOf(mark) }))
    .filter(({ at }) => !(at[0] === start && at[1] === end))
    .map(({ mark, at }) => ({ mark, from: at[0], apart: Math.max(0, at[0] - end, start - at[1]) }))
    .filter(({ apart }) => apart <= reach)
    .toSorted((a, b) => a.apart - b.apart || b.from - a.from);
  return [...new Set(near.flatMap(({ mark }) => mark.tagIds))].slice(0, most);
}
