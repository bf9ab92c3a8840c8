import type { ReactNode } from 'react';
import { outgoing } from '@/api/waiting/outgoing';
import type { Waiting } from '@/api/waiting/waiting';
import { Button } from '@/parts/Button';
import { bothTexts, emptyText, readText } from '@/parts/richText';
import { RichTextShown } from '@/parts/RichTextShown';

/** Two people wrote one text: both versions beside each other, and the choice. Nothing is thrown away before it. */
export function TwoVersions({ of }: { of: Waiting }) {
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
          <Version title="What stands there now" text={theirs} rich={rich}>
            <Button onClick={() => choose(null)}>Keep theirs</Button>
          </Version>
        )}
        <Version title="What you wrote" text={mine} rich={rich}>
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

function Version({ title, text, rich, children }: { title: string; text: string; rich: boolean; children: ReactNode }) {
  const read = rich ? (readText(text) ?? emptyText) : null;
  const empty = read ? read.blocks.length === 0 : text === '';
  return (
    <div className="flex flex-col rounded-std border border-line bg-case p-3">
      <h3 className="mb-1 text-[12px] font-semibold text-ink-soft">{title}</h3>
      <div className="mb-3 max-h-[180px] flex-1 overflow-y-auto font-read text-[15px] leading-[1.5] font-normal whitespace-pre-wrap">
        {empty ? '(empty)' : read ? <RichTextShown text={read} embedded={(block) => <p className="text-ink-soft">({block.type})</p>} /> : text}
      </div>
      <div className="flex flex-wrap gap-2">{children}</div>
    </div>
  );
}
