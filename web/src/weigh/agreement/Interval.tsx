import { onLine } from './inWords';

/** Kappa with its 95 % interval on a line from 0 to 1. */
export function Interval({ kappa, error }: { kappa: number | null; error: number | null }) {
  if (kappa === null || error === null) return null;
  const { from, to, at } = onLine(kappa, error);
  return (
    <svg viewBox="-4 0 108 12" className="ml-auto h-3 w-[64px]" role="img" aria-label={`95 % interval ${(from / 100).toFixed(2)} to ${(to / 100).toFixed(2)}`}>
      <line x1={0} x2={100} y1={6} y2={6} stroke="var(--line)" />
      <line x1={from} x2={to} y1={6} y2={6} stroke="var(--verdigris)" strokeWidth={3} opacity={0.6} />
      <circle cx={at} cy={6} r={4} fill="var(--verdigris)" />
    </svg>
  );
}
