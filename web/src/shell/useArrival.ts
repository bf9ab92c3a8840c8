import { useQueryClient } from '@tanstack/react-query';
import { useMatches, useRouterState } from '@tanstack/react-router';
import { useEffect } from 'react';
import { queries } from '@/api/queries';
import { keepFocus, pageArrived } from '@/parts/keepFocus';

const titleParts = (parts: readonly (string | undefined)[]) => [...parts.filter(Boolean), 'Vitrine'].join(' · ');

/** Whoever comes to a page has the focus on what it is for, and its title in the browser. */
export function useArrival() {
  const cache = useQueryClient();
  const page = useMatches({ select: (all) => all.at(-1)?.staticData.title });
  // Another source on the page is another thing that one came for.
  const place = useRouterState({ select: (s) => `${s.location.pathname} ${String((s.location.search as { source?: number }).source ?? '')}` });
  useEffect(keepFocus, []);
  useEffect(pageArrived, [place]);
  useEffect(() => {
    const study = /^\/studies\/(\d+)/.exec(place);
    const tell = () => {
      const title = study ? cache.getQueryData<{ line: { title: string } }>(queries.study(Number(study[1])).queryKey)?.line.title : undefined;
      document.title = titleParts([page, title]);
    };
    tell();
    return cache.getQueryCache().subscribe(tell);
  }, [cache, page, place]);
}
