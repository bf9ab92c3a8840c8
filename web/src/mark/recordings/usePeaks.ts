import { useQueries } from '@tanstack/react-query';
import { queries } from '@/api/queries';
import { resolutionFor, type View } from './view';

/** Peaks that are fetched at once. */
const inTile = 6000;

/** The peaks of the part that is drawn: of a span of milliseconds the loudest, 0 to 255; null where they are not there yet. */
export function usePeaks(sourceId: number, view: View, width: number): { key: string; loudest: (from: number, to: number) => number | null } {
  const perSecond = resolutionFor(view, width);
  const tileMs = (inTile / perSecond) * 1000;
  const first = Math.floor(view.from / tileMs);
  const last = Math.floor((view.from + view.span) / tileMs);
  const tiles = useQueries({
    queries: Array.from({ length: last - first + 1 }, (_, i) => queries.peaks(sourceId, perSecond, (first + i) * inTile, (first + i + 1) * inTile)),
    combine: (all) => all.map((one) => one.data),
  });
  return {
    key: `${perSecond} ${first} ${tiles.map((t) => t?.length ?? '-').join()}`,
    loudest: (from, to) => {
      let most: number | null = null;
      const begin = Math.floor((from / 1000) * perSecond);
      for (let i = begin; i < Math.max(begin + 1, (to / 1000) * perSecond); i++) {
        const value = tiles[Math.floor(i / inTile) - first]?.[i % inTile];
        if (value !== undefined) most = Math.max(most ?? 0, value);
      }
      return most;
    },
  };
}
