import type { Schemas } from '@/api/client';

type Then = Schemas['TagSetThen'];
type Change = Schemas['TagChange'];

const heads: readonly [Change, string][] = [
  ['added', 'Added'],
  ['merged', 'Merged'],
  ['split', 'Split'],
  ['renamed', 'Renamed'],
  ['moved', 'Moved'],
  ['defined', 'New definition'],
  ['settled', 'Settled'],
  ['unsettled', 'A draft again'],
  ['retired', 'Retired'],
  ['broughtBack', 'Brought back'],
  ['removed', 'Removed'],
];

const quoted = (name: string) => `“${name}”`;
const listed = (names: readonly string[]) => (names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`);
const meaning = ({ definition, isNot }: Schemas['TagThen']) => (isNot ? `${definition || 'nothing'} Not: ${isNot}` : definition) || 'nothing';

export interface ChangesOfKind {
  head: string;
  many: number;
  lines: { tagId: number; says: string }[];
}

/** What became of the tags, kind by kind, in sentences. */
export function differencesOf({ tags, now, differences }: Then): ChangesOfKind[] {
  const then = new Map(tags.map((t) => [t.id, t]));
  const present = new Map(now.map((t) => [t.id, t]));
  const name = (id: number) => quoted((present.get(id) ?? then.get(id))?.name ?? 'a tag that is gone');
  const place = (parentId: number | null) => (parentId === null ? 'at the top' : `under ${name(parentId)}`);
  const line = (d: Schemas['TagDifference'], change: Change): string => {
    const one = (d.now ?? d.then)!;
    switch (change) {
      case 'merged':
        return `${quoted(one.name)} into ${listed(d.into.map(name))}`;
      case 'split':
        return `${quoted(one.name)} into ${listed(d.into.map(name))}; it ${d.now ? 'stayed' : 'went'}`;
      case 'renamed':
        return `${quoted(d.then!.name)} is now ${quoted(one.name)}`;
      case 'moved':
        return `${quoted(one.name)}, ${place(d.then!.parentId)} before, is now ${place(one.parentId)}`;
      case 'defined':
        return `${quoted(one.name)}: ${meaning(one)} Before: ${meaning(d.then!)}`;
      default:
        return quoted(one.name);
    }
  };
  /** New tags are told with those that stand beside them. */
  const added = (of: Schemas['TagDifference'][]) =>
    [...new Set(of.map((d) => d.now!.parentId))].map((parentId) => {
      const beside = of.filter((d) => d.now!.parentId === parentId);
      return { tagId: beside[0]!.now!.id, says: `${place(parentId)}: ${beside.map((d) => quoted(d.now!.name)).join(', ')}` };
    });
  return heads.flatMap(([change, head]) => {
    const of = differences.filter((d) => d.changes.includes(change));
    const lines = change === 'added' ? added(of) : of.map((d) => ({ tagId: (d.now ?? d.then)!.id, says: line(d, change) }));
    return lines.length > 0 ? [{ head, many: of.length, lines }] : [];
  });
}

/** The same as text, as it stands in a section on method. */
export const asText = (day: string, history: Then): string =>
  [
    `The tag set had ${history.tags.length} tags on ${day} and has ${history.now.length} now.`,
    ...differencesOf(history).map(({ head, many, lines }) => `${head} (${many}): ${lines.map((l) => l.says).join('; ')}.`),
  ].join('\n');

/** A tag set as an outline: each tag with how deep it stands. */
export function outlineOf(tags: Then['tags']): { tag: Then['tags'][number]; depth: number }[] {
  const ids = new Set(tags.map((t) => t.id));
  const under = (parentId: number | null, depth: number): { tag: Then['tags'][number]; depth: number }[] =>
    tags
      .filter((t) => (t.parentId !== null && ids.has(t.parentId) ? t.parentId : null) === parentId)
      .flatMap((tag) => [{ tag, depth }, ...under(tag.id, depth + 1)]);
  return under(null, 0);
}
