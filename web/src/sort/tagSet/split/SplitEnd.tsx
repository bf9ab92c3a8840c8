import { Button } from '@/parts/Button';
import { count } from '@/parts/words';
import type { Split } from './split';

interface Props {
  split: Split;
  busy: boolean;
  onFinish: (keep: boolean) => void;
}

/** How the split ends: the wide tag stays above the narrower ones, or goes; with the numbers before and after. */
export function SplitEnd({ split, busy, onFinish }: Props) {
  const { kept, letGo, wide } = split;
  const sent = kept.own.before - kept.own.after;
  const able = sent > 0 && !busy;
  return (
    <section aria-label="When all are looked at">
      <h2 className="mb-1.5 text-[13px] text-ink-soft">
        {split.decisions.length === split.observations.length ? 'All are looked at' : 'When all are looked at, or now'}
      </h2>
      <div className="grid grid-cols-2 gap-4 text-[13px]">
        <div>
          <Button look={able ? 'main' : 'plain'} disabled={!able} onClick={() => onFinish(true)}>
            Keep “{wide.name}” above them
          </Button>
          <p className="mt-1 text-ink-soft">
            own {kept.own.before} → {kept.own.after}, with those under it {kept.withUnder.before} → {kept.withUnder.after}
          </p>
        </div>
        <div>
          <Button disabled={!able} onClick={() => onFinish(false)}>
            Remove the wide tag
          </Button>
          <p className="mt-1 text-ink-soft">
            {letGo.goes
              ? `it is gone, ${count(sent, 'observation')} carry narrower tags; nothing else changes`
              : `${letGo.own.after + split.elsewhere} stay on it, so it stays beside them`}
          </p>
        </div>
      </div>
      {split.valuesLost > 0 && (
        <p className="mt-1 text-[12.5px] text-brass">
          {count(split.valuesLost, 'value is', 'values are')} not on the scale of the tag they go to, and would be lost.
        </p>
      )}
      {split.elsewhere > 0 && <p className="mt-1 text-[12.5px] text-ink-soft">{count(split.elsewhere, 'observation')} elsewhere carry it too, and keep it.</p>}
    </section>
  );
}
