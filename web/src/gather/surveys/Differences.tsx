import type { Schemas } from '@/api/client';
import { count } from '@/parts/words';

/** Answers beside what is here instead: whose, to which question. */
export function Differences({ label, first, all }: { label: string; first: readonly Schemas['AnswerDifference'][]; all: number }) {
  return (
    <ul aria-label={label} className="mt-3 space-y-1.5 text-[13px]">
      {first.map((d, i) => (
        <li key={i} className="line-clamp-3">
          <span className="font-medium">{d.who}</span>, {d.question}:{' '}
          {d.before === '' ? <span className="text-ink-soft">nothing</span> : <span className="text-ink-soft line-through">{d.before}</span>} {d.now}
        </li>
      ))}
      {all > first.length && <li className="text-ink-soft">and {count(all - first.length, 'answer')} more</li>}
    </ul>
  );
}
