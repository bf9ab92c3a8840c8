import { useInfiniteQuery } from '@tanstack/react-query';
import type { Schemas } from '@/api/client';
import type { queries } from '@/api/queries';
import { useMore } from './useMore';

/** What lies in no theme, in its groups and in pages; and which of it is new. */
export function useUnsorted(of: ReturnType<typeof queries.unsorted>) {
  const pages = useInfiniteQuery(of);
  const all = pages.data?.pages ?? [];
  return {
    quotes: all.flatMap((page) => page.quotes),
    total: all[0]?.total,
    groups: all[0]?.groups ?? [],
    fresh: new Set(all.flatMap((page) => page.newIds)),
    more: useMore(pages),
  };
}

/** Pieces of a theme that come in pages, in the same way. */
export function usePieceQuotes(of: ReturnType<typeof queries.themePieces>) {
  const pages = useInfiniteQuery(of);
  return { quotes: pages.data?.pages.flatMap((page) => page.quotes) ?? [], total: pages.data?.pages[0]?.total, more: useMore(pages), error: pages.error };
}

type Pages = ReturnType<typeof queries.found> | ReturnType<typeof queries.foundQuotes> | ReturnType<typeof queries.evidenceQuotes>;

/** Quotes that come in pages, as a long list needs them: those that are there so far, how many there are, and how to have more. */
export function useQuotes(of: Pages) {
  const pages = useInfiniteQuery(of as ReturnType<typeof queries.evidenceQuotes>);
  const quotes: Schemas['Quote'][] = pages.data?.pages.flatMap((page) => page.quotes) ?? [];
  return { quotes, total: pages.data?.pages[0]?.total, more: useMore(pages), error: pages.error };
}
