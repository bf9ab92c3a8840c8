import type { ReactNode } from 'react';
import { outgoing } from '@/api/waiting/outgoing';
import type { Waiting } from '@/api/waiting/waiting';
import { Button } from '@/parts/Button';

/** Two people wrote one text: both versions beside each other, and the choice. Nothing is thrown away before it. */
export function TwoVersions({ of }: { of: Waiting }) {
  const { theirs, sentence } = of.clash!;
  const mine = of.text!.now;
  const choose = (text: string | null) => void outgoing.choose(of.order, text);
  return (
    <section aria-label="Two versions" className="mt-2 animate-rise rounded-std border border-brass bg-brass-wash p-3 text-[13px]">
      <p role="alert" className="mb-2">
        {sentence}
      </p>
      <div className={`grid gap-3 ${theirs === null ? '' : 'grid-cols-2'}`}>
        {theirs !== null && (
          <Version title="What stands there now" text={theirs}>
            <Button onClick={() => choose(null)}>Keep theirs</Button>
          </Version>
        )}
        <Version title="What you wrote" text={mine}>
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
              <Button onClick={() => choose(`${theirs}\n\n${mine}`)}>Keep both, one under the other</Button>
            </>
          )}
        </Version>
      </div>
    </section>
  );
}

function Version({ title, text, children }: { title: string; text: string; children: ReactNode }) {
  return (
    <div className="flex flex-col rounded-std border border-line bg-case p-3">
      <h3 className="mb-1 text-[12px] font-semibold text-ink-soft">{title}</h3>
      <p className="mb-3 max-h-[180px] flex-1 overflow-y-auto font-read text-[15px] leading-[1.5] font-normal whitespace-pre-wrap">
        {text === '' ? '(empty)' : text}
      </p>
      <div className="flex flex-wrap gap-2">{children}</div>
    </div>
  );
}
