import type { Schemas } from '@/api/client';

/** What a tag is, what it is not, and its other names. */
export function TagMeaning({ tag }: { tag: Pick<Schemas['Tag'], 'definition' | 'isNot' | 'aliases'> }) {
  return (
    <p className="mt-1.5 font-read text-[16px] leading-[25px]">
      {tag.definition || <span className="text-brass">It has no definition yet.</span>}
      {tag.isNot && (
        <span className="text-ink-soft">
          {' '}
          <em>Not:</em> {tag.isNot}
        </span>
      )}
      {tag.aliases.length > 0 && (
        <span className="text-ink-soft">
          {' '}
          <em>Also:</em> {tag.aliases.join(', ')}
        </span>
      )}
    </p>
  );
}
