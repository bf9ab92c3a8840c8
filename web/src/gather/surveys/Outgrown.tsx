import type { Schemas } from '@/api/client';
import { count } from '@/parts/words';

interface Props {
  scales: readonly Schemas['ScaleOutgrown'][];
  widen: boolean;
  onWiden: (widen: boolean) => void;
}

/** Values that lie outside the scale that their tag has: whether it is widened for them. */
export function Outgrown({ scales, widen, onWiden }: Props) {
  const can = scales.some((s) => s.widened !== null);
  return (
    <section aria-label="Scales" className="mb-5 border-t border-line pt-4">
      <ul className="space-y-1.5 text-[13px]">
        {scales.map((s) => (
          <li key={s.column}>
            “{s.tag}” goes from {s.scale.least} to {s.scale.most}; {count(s.values, 'value lies', 'values lie')} outside.{' '}
            {s.widened === null ? 'No scale would hold them; they stay words.' : `It would go from ${s.widened.least} to ${s.widened.most}.`}
          </li>
        ))}
      </ul>
      {can && (
        <label className="mt-2 flex items-center gap-2">
          <input type="checkbox" className="size-4 shrink-0 accent-verdigris" checked={widen} onChange={(e) => onWiden(e.target.checked)} />
          Widen the scale; else these values stay words
        </label>
      )}
    </section>
  );
}
