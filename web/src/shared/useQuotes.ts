import { useInfiniteQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { Schemas } from '@/api/client';
import type { queries } from '@/api/queries';

type Pages = ReturnType<typeof queries.unsorted> | ReturnType<typeof queries.evidenceQuotes>;

/** Quotes that come in pages, as a long list needs them: those that are there so far, how many there are, and how to have more. */
export function useQuotes(pages: Pages) {
  const { data, error, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery(pages as ReturnType<typeof queries.unsorted>);
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  const quotes: Schemas['Quote'][] = data?.pages.flatMap((page) => page.quotes) ?? [];
  return { quotes, total: data?.pages[0]?.total, more, error };
}
