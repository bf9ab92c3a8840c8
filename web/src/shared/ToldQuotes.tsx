import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { QuoteItem } from '@/parts/QuoteItem';
import { count } from '@/parts/words';

interface Props {
  told: Schemas['QuotesThatTell'];
  who: (id: number | null) => string;
  studyId: number;
  colour: string;
  /** What is asked of the one that fits least. */
  ask: string;
  children?: (quote: Schemas['Quote']) => ReactNode;
}

/** Why a quote was chosen, in a sentence. */
function why({ ties, sharedWith, people }: Schemas['ChosenQuote'], odd: boolean): string {
  if (ties.length === 0) return odd ? 'It shares no word with the others.' : 'It is on its own here.';
  const words = ties.map((t) => `“${t}”`).join(', ');
  const others = `${count(sharedWith, 'other quote')} of ${count(people, 'person', 'people')}`;
  return `Shares ${odd ? 'only ' : ''}${words} with ${others}.`;
}

/** The quotes that tell best what a tag or a theme says, and the one that fits least; each with why. */
export function ToldQuotes({ told, who, studyId, colour, ask, children }: Props) {
  if (told.telling.length === 0) return null;
  return (
    <section aria-label="Telling quotes" className="mt-7">
      <h2 className="font-read text-[18px] font-semibold">Telling quotes</h2>
      <p className="mb-1 text-[12.5px] text-ink-soft">
        Those whose words most others share, each of somebody else where that can be; chosen among {told.looked}.
      </p>
      <ul className="border-l-2 pl-4" style={{ borderColor: colour }}>
        {told.telling.map((chosen) => (
          <li key={chosen.quote.observationId} className="py-2">
            <QuoteItem quote={chosen.quote} who={who(chosen.quote.participantId)} studyId={studyId}>
              <p className="mt-0.5 text-[12px] text-ink-soft">{why(chosen, false)}</p>
              {children?.(chosen.quote)}
            </QuoteItem>
          </li>
        ))}
      </ul>
      {told.odd && (
        <div className="mt-3 border-l-2 border-dashed border-brass pl-4">
          <h3 className="text-[12.5px] font-semibold text-brass">Fits least: {ask}</h3>
          <QuoteItem quote={told.odd.quote} who={who(told.odd.quote.participantId)} studyId={studyId}>
            <p className="mt-0.5 text-[12px] text-ink-soft">{why(told.odd, true)}</p>
          </QuoteItem>
        </div>
      )}
    </section>
  );
}
