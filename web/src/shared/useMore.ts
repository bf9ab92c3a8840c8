import { useCallback } from 'react';

interface Pages {
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  fetchNextPage: () => Promise<unknown>;
}

/** Fetches the next page of a list, unless it is on its way or there is none. */
export function useMore({ hasNextPage, isFetchingNextPage, fetchNextPage }: Pages) {
  return useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
}
