import type { Schemas } from '@/api/client';
import { HitWords } from '@/parts/HitWords';

/** A passage with what stands around it in its turn. */
export function PassageWords({ passage }: { passage: Schemas['PassageShown'] }) {
  return (
    <p className="min-w-0 font-read text-[15.5px] leading-[24px] wrap-anywhere whitespace-pre-line">
      <span className="text-ink-soft">{passage.before}</span>
      <HitWords hit={{ words: passage.words, marks: passage.hits }} />
      <span className="text-ink-soft">{passage.after}</span>
    </p>
  );
}
