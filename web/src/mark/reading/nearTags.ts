import type { Stretch } from '@/mark/observations/stretch';

const most = 6;
/** What stands farther away than this, in characters, is of another place. */
const reach = 3000;

/** The tags of marks near a stretch, the nearest first, without those of the stretch itself. */
export function nearTags(marks: readonly (Stretch & { tagIds: readonly number[] })[], { start, end }: Stretch): number[] {
  const apart = (m: Stretch) => Math.max(0, m.start - end, start - m.end);
  const near = marks.filter((m) => !(m.start === start && m.end === end) && apart(m) <= reach).toSorted((a, b) => apart(a) - apart(b) || b.start - a.start);
  return [...new Set(near.flatMap((m) => m.tagIds))].slice(0, most);
}
