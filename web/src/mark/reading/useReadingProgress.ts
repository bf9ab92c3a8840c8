import { useEffect, useRef } from 'react';
import { api, ask, type Schemas } from '@/api/client';

const settle = 1200;

/** Tells the server how far the person has read: the end of the last turn that came into view. Failing to is no matter; the next turn tells it again. */
export function useReadingProgress(source: Schemas['Source'], lastInView: number) {
  const { id } = source.line;
  const furthest = useRef(source.line.furthest ?? 0);
  const end = source.turns[lastInView]?.end ?? 0;
  useEffect(() => {
    if (end <= furthest.current) return;
    const timer = setTimeout(() => {
      furthest.current = end;
      void ask(api.PUT('/api/sources/{id}/reading', { params: { path: { id } }, body: { furthest: end } })).catch(() => undefined);
    }, settle);
    return () => clearTimeout(timer);
  }, [id, end]);
}
