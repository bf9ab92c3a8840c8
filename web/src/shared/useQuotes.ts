import { useInfiniteQuery } from '@tanstack/react-query';
import type { Schemas } from '@/api/client';
import type { queries } from '@/api/queries';
import { useMore } from './useMore';

/** Pieces of a theme that come in pages, in the same way. */
export function usePieceQuotes(of: ReturnType<typeof queries.themePieces>) {
  const pages = useInfiniteQuery(of);
  return { quotes: pages.data?.pages.flatMap((page) => page.quotes) ?? [], total: pages.data?.pages[0]?.total, more: useMore(pages), error: pages.error };
}

type Pages = ReturnType<typeof queries.unsorted> | ReturnType<typeof queries.evidenceQuotes>;

/** Quotes that come in pages, as a long list needs them: those that are there so far, how many there are, and how to have more. */
export function useQuotes(of: Pages) {
  const pages = useInfiniteQuery(of as ReturnType<typeof queries.unsorted>);
  const quotes: Schemas['Quote'][] = pages.data?.pages.flatMap((page) => page.quotes) ?? [];
  return { quotes, total: pages.data?.pages[0]?.total, more: useMore(pages), error: pages.error };
}
