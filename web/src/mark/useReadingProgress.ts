import { useEffect, type RefObject } from 'react';
import { api, ask, type Schemas } from '@/api/client';

const settle = 1200;

/** Tells the server how far the person has read: the end of the lowest turn that came into view. Failing to is no matter; the next turn tells it again. */
export function useReadingProgress(root: RefObject<HTMLDivElement | null>, source: Schemas['Source']) {
  const { id } = source.line;
  useEffect(() => {
    const ends = new Map(source.turns.map((t) => [String(t.start), t.end]));
    let furthest = source.line.furthest ?? 0;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const observer = new IntersectionObserver((entries) => {
      const seen = Math.max(...entries.filter((e) => e.isIntersecting).map((e) => ends.get((e.target as HTMLElement).dataset['start']!) ?? 0), 0);
      if (seen <= furthest) return;
      furthest = seen;
      clearTimeout(timer);
      timer = setTimeout(() => void ask(api.PUT('/api/sources/{id}/reading', { params: { path: { id } }, body: { furthest } })).catch(() => undefined), settle);
    });
    root.current?.querySelectorAll('[data-start]').forEach((block) => observer.observe(block));
    return () => {
      observer.disconnect();
      clearTimeout(timer);
    };
    // Reading begins anew with another source, not with each refetch of the same one.
  }, [id]); // eslint-disable-line react-hooks/exhaustive-deps
}
