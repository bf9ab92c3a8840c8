import type { Schemas } from '@/api/client';
import { stanceWords } from './words';

const shapes: Record<Schemas['Stance'], { background: string; border: string }> = {
  supports: { background: 'var(--verdigris)', border: 'var(--verdigris)' },
  contradicts: { background: 'repeating-linear-gradient(135deg, var(--oxblood) 0 2px, var(--case) 2px 4px)', border: 'var(--oxblood)' },
  context: { background: 'transparent', border: 'var(--ink-soft)' },
};

/** How a piece bears on a claim, by shape, at its left edge: full, hatched, open. */
export function StanceEdge({ stance }: { stance: Schemas['Stance'] }) {
  const { background, border } = shapes[stance];
  return (
    <span
      role="img"
      aria-label={stanceWords[stance]}
      title={stanceWords[stance]}
      className="absolute inset-y-1.5 left-1.5 w-[6px] rounded-[2px] border"
      style={{ background, borderColor: border }}
    />
  );
}
