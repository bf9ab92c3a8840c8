import { QueryClient } from '@tanstack/react-query';
import { describe, expect, it } from 'vitest';
import { queries } from './queries';
import { isFetched, refetch, refetchAfter } from './refetch';
import { tables, type Changed } from './restsOn';

const asked = [
  queries.source(4),
  queries.observations(4),
  queries.observations(5),
  queries.tags(3),
  queries.tagCounts(3),
  queries.participants(3),
  queries.table(9, 'sources'),
  queries.sources(3),
  queries.sourceCounts(3),
  queries.exhibits(),
  queries.me(),
];
const name = (key: readonly unknown[]) => key.slice(0, 2).join(' ');

const stale = async (changes?: Changed[]) => {
  const cache = new QueryClient();
  for (const one of asked) {
    cache.getQueryCache().build(cache, one as never);
    cache.setQueryData<unknown>(one.queryKey, 'x');
  }
  await refetch(cache, changes);
  return asked.map((one) => one.queryKey).filter((key) => cache.getQueryState(key)!.isInvalidated).map(name); // prettier-ignore
};
const changed = (rows: Record<string, number[] | null>, studyId: number | null = 3, sources: number[] | null = []): Changed => ({ studyId, rows, sources });

describe('what a change makes old', () => {
  it('is everything when nobody knows what it was', async () => expect(await stale()).toHaveLength(asked.length));

  it('is, for a mark, the observations of its source and the counts of its study, never the names', async () =>
    expect(await stale([changed({ observation: [1], observation_tag: [1] }, 3, [4])])).toEqual(['observations 4', 'tag-counts 3', 'source-counts 3']));

  it('is the names and looks of tags only when a tag was changed', async () =>
    expect(await stale([changed({ tag: [2] })])).toEqual(['tags 3', 'tag-counts 3']));

  it('is of every source when it is not told of which', async () =>
    expect(await stale([changed({ observation: null }, 3, null)])).toEqual(['observations 4', 'observations 5', 'tag-counts 3', 'source-counts 3']));

  it('is what rests on shared things in every study', async () =>
    expect(await stale([changed({ observation_tag: [1] }, null, [5])])).toEqual(['observations 5', 'tag-counts 3', 'table 9']));

  it('is all that several changes touch', async () =>
    expect(await stale([changed({ exhibit: [1] }, null), changed({ attribute_value: [1] })])).toEqual(['participants 3', 'exhibits']));
});

describe('queries', () => {
  type Any = (...given: unknown[]) => { meta?: { restsOn: { tables: readonly string[] } } };
  const made = Object.entries(queries).map(([name, query]) => (query as Any)(name === 'search' ? 'words' : 1, '{}', null, []));

  it('all say what they rest on', () => expect(made.every((query) => query.meta)).toBe(true));

  it('leave no table out', () => {
    const some = made.map((query) => query.meta!.restsOn.tables).filter((rests) => rests.length < tables.length);
    expect(tables.filter((table) => !some.some((rests) => rests.includes(table)))).toEqual([]);
  });
});

it('a step of one’s own is fetched once', async () => {
  const cache = new QueryClient();
  await refetchAfter(cache, { actionId: 7, changed: changed({ tag: [1] }) });
  expect([isFetched(7), isFetched(8), isFetched(null)]).toEqual([true, false, false]);
});
