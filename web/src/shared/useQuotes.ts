import { useInfiniteQuery } from '@tanstack/react-query';
import type { Schemas } from '@/api/client';
import type { queries } from '@/api/queries';
import { useMore } from './useMore';

type Pages = ReturnType<typeof queries.unsorted> | ReturnType<typeof queries.evidenceQuotes>;

/** Quotes that come in pages, as a long list needs them: those that are there so far, how many there are, and how to have more. */
export function useQuotes(of: Pages) {
  const pages = useInfiniteQuery(of as ReturnType<typeof queries.unsorted>);
  const quotes: Schemas['Quote'][] = pages.data?.pages.flatMap((page) => page.quotes) ?? [];
  return { quotes, total: pages.data?.pages[0]?.total, more: useMore(pages), error: pages.error };
}
