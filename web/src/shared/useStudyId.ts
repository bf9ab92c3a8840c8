import { useRouterState } from '@tanstack/react-router';

/** The study whose pages are open; null outside studies. */
export function useStudyId(): number | null {
  const path = useRouterState({ select: (s) => s.location.pathname });
  const found = /^\/studies\/(\d+)/.exec(path)?.[1];
  return found === undefined ? null : Number(found);
}
