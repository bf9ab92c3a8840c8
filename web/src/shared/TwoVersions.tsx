import { useEffect, useRef, type ReactNode } from 'react';
import { outgoing } from '@/api/waiting/outgoing';
import type { Waiting } from '@/api/waiting/waiting';
import { Button } from '@/parts/Button';
import { bothTexts, emptyText, readText, type RichBlock, type RichText } from '@/parts/richText';
import { RichTextShown } from '@/parts/RichTextShown';

/** Two people wrote one text: both versions beside each other, and the choice. Nothing is thrown away before it. */
export function TwoVersions({ of, embedded }: { of: Waiting; embedded?: (block: RichBlock) => ReactNode }) {
  const { theirs, sentence } = of.clash!;
  const mine = of.text!.now;
  const rich = of.text!.rich === true;
  const both = rich ? JSON.stringify(bothTexts(readText(theirs ?? '') ?? emptyText, readText(mine) ?? emptyText)) : `${theirs}\n\n${mine}`;
  const choose = (text: string | null) => void outgoing.choose(of.order, text);
  return (
    <section aria-label="Two versions" className="mt-2 animate-rise rounded-std border border-brass bg-brass-wash p-3 text-[13px]">
      <p role="alert" className="mb-2">
        {sentence}
      </p>
      <div className={`grid gap-3 ${theirs === null ? '' : 'grid-cols-2'}`}>
        {theirs !== null && (
          <Version title="What stands there now" text={theirs} other={mine} rich={rich} embedded={embedded}>
            <Button onClick={() => choose(null)}>Keep theirs</Button>
          </Version>
        )}
        <Version title="What you wrote" text={mine} other={theirs ?? ''} rich={rich} embedded={embedded}>
          {theirs === null ? (
            <>
              <Button onClick={() => choose(mine)}>Send again</Button>
              <Button onClick={() => choose(null)}>Drop it</Button>
            </>
          ) : (
            <>
              <Button look="main" onClick={() => choose(mine)}>
                Keep mine
              </Button>
              <Button onClick={() => choose(both)}>Keep both, one under the other</Button>
            </>
          )}
        </Version>
      </div>
    </section>
  );
}

/** The first block in which two texts differ. */
function firstOther(one: RichText, other: RichText): number {
  const at = one.blocks.findIndex((block, i) => JSON.stringify(block) !== JSON.stringify(other.blocks[i]));
  return at < 0 ? one.blocks.length - 1 : at;
}

interface VersionProps {
  title: string;
  text: string;
  other: string;
  rich: boolean;
  embedded: ((block: RichBlock) => ReactNode) | undefined;
  children: ReactNode;
}

function Version({ title, text, other, rich, embedded, children }: VersionProps) {
  const read = rich ? (readText(text) ?? emptyText) : null;
  const place = useRef<HTMLDivElement>(null);
  // A long text is shown from where the two differ.
  useEffect(() => {
    const at = rich ? firstOther(readText(text) ?? emptyText, readText(other) ?? emptyText) : 0;
    const block = place.current?.querySelector('.rich-text')?.children[at];
    if (place.current && block instanceof HTMLElement) place.current.scrollTop = block.offsetTop - place.current.offsetTop;
  }, [rich, text, other]);
  const empty = read ? read.blocks.length === 0 : text === '';
  return (
    <div className="flex flex-col rounded-std border border-line bg-case p-3">
      <h3 className="mb-1 text-[12px] font-semibold text-ink-soft">{title}</h3>
      <div ref={place} className="mb-3 max-h-[180px] flex-1 overflow-y-auto font-read text-[15px] leading-[1.5] font-normal whitespace-pre-wrap">
        {empty ? '(empty)' : read ? <RichTextShown text={read} embedded={embedded ?? ((block) => <p className="text-ink-soft">({block.type})</p>)} /> : text}
      </div>
      <div className="flex flex-wrap gap-2">{children}</div>
    </div>
  );
}
