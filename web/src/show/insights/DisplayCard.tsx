import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { Level } from '@/parts/Level';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { factWords } from '@/parts/factWords';

type Facts = Schemas['EvidenceFacts'];

interface Props {
  headline: ReactNode;
  facts: Facts;
  people: readonly { id: number; pseudonym: string }[];
  breadth: Pick<Schemas['Breadth'], 'strip' | 'against' | 'asked'>;
  outOf: number;
  newest: string | null;
  children?: ReactNode;
}

/** An insight as an object in a case: headline, evidence level in words, people strip, and what is set beside it. */
export function DisplayCard({ headline, facts, people, breadth, outOf, newest, children }: Props) {
  return (
    <article className="rounded-std border border-line bg-case p-1.5 shadow-[0_6px_22px_light-dark(rgb(60_50_20/0.10),rgb(0_0_0/0.35))]">
      <div className="rounded-[4px] border border-line/70 px-5 py-4">
        <h2 className="font-read text-[20px] leading-[1.3] font-semibold">{headline}</h2>
        <p className="mt-2 flex flex-wrap items-center gap-x-3.5 gap-y-1 text-[13px] text-ink-soft">
          <Level of={facts.level} />
          <PeopleStrip people={people} breadth={breadth} large />
          {factWords(facts, outOf, newest).map((words) => (
            <span key={words}>{words}</span>
          ))}
        </p>
        {children}
      </div>
    </article>
  );
}
