import type { QueryClient } from '@tanstack/react-query';

/** Queries that are large or rarely change, with the tables that they are made of. All others are fetched again after any write. */
const madeOf: Record<string, readonly string[]> = {
  me: [],
  source: ['source', 'source_text', 'turn', 'speaker', 'source_participant'],
  participants: ['participant', 'attribute', 'attribute_value'],
};

/** What a mark touches. */
export const markTables = ['observation', 'observation_tag', 'tag'];

/** Fetches again what a write may have changed; without tables, everything. */
export const refetch = (cache: QueryClient, tables?: readonly string[]) =>
  cache.invalidateQueries({
    predicate: ({ queryKey }) => {
      const made = madeOf[String(queryKey[0])];
      return !tables || !made || made.some((table) => tables.includes(table));
    },
  });
