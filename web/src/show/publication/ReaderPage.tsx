import { useQuery } from '@tanstack/react-query';
import { useParams } from '@tanstack/react-router';
import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Clip } from '@/parts/Cutout';
import { Dialog } from '@/parts/Dialog';
import { Waiting } from '@/parts/Empty';
import { RichTextShown } from '@/parts/RichTextShown';
import { clock, count, day, kindWords } from '@/parts/words';
import { DisplayCard } from '@/show/insights/DisplayCard';

/** What someone reads who was not in the room: the exhibit by its secret link, without an account. */
export function ReaderPage() {
  const { token } = useParams({ from: '/read/$token' });
  const { data: page, error } = useQuery(queries.read(token));
  const [opened, setOpened] = useState<Schemas['ReaderQuote'] | null>(null);
  if (!page) return <Waiting problem={error} />;
  return (
    <div className="min-h-full bg-paper-deep">
      <main className="mx-auto max-w-[920px] px-5 py-10 print:py-0">
        <p className="flex flex-wrap justify-between gap-2 text-[13px] text-ink-soft">
          <span>An exhibit, kept up to date by the research team</span>
          <span>as of {day(page.updatedAt)}</span>
        </p>
        <h1 className="mt-3 font-read text-[clamp(26px,5vw,40px)] leading-[1.12] font-semibold">{page.question}</h1>
        {page.summary && <p className="mt-3 max-w-[58ch] font-read text-[18.5px] leading-[1.5] whitespace-pre-line text-ink-soft">{page.summary}</p>}
        <div className="mt-7 space-y-6">
          {page.insights.map((shown, i) => (
            <ReaderInsight key={i} token={token} insight={shown} onOpen={setOpened} />
          ))}
          {page.insights.length === 0 && <p className="text-ink-soft">Nothing is on show here yet.</p>}
        </div>
        <p className="mt-8 text-[12.5px] text-ink-soft">
          Names are pseudonyms. Each small cell is one person: the deeper, the more they said about it; hatched, they said otherwise; a dot, they were not
          asked.
        </p>
      </main>
      {opened && <Context token={token} quote={opened} onClose={() => setOpened(null)} />}
    </div>
  );
}

/** How many quotes of each side stand beside a story before the rest is asked for. */
const shownFirst = 3;

interface InsightProps {
  token: string;
  insight: Schemas['ReaderInsight'];
  onOpen: (quote: Schemas['ReaderQuote']) => void;
}

function ReaderInsight({ token, insight, onOpen }: InsightProps) {
  const people = insight.people.map((p, i) => ({ id: i, pseudonym: p.name }));
  const breadth = {
    strip: insight.people.map((p) => p.supporting),
    against: insight.people.map((p) => p.contradicting),
    asked: insight.people.map((p) => p.asked),
  };
  const [all, setAll] = useState(false);
  const told = insight.quotes;
  const first = [...told.filter((q) => q.stance === 'supports').slice(0, shownFirst), ...told.filter((q) => q.stance === 'contradicts').slice(0, shownFirst)];
  const quotes = all ? told : first;
  return (
    <DisplayCard headline={insight.headline} facts={insight.facts} people={people} breadth={breadth} outOf={insight.outOf} newest={insight.newestEvidence}>
      <div className="mt-4 grid gap-x-8 gap-y-4 md:grid-cols-[1fr_1fr]">
        <div className="font-read text-[16.5px] leading-[1.55]">
          {insight.story.map((part, i) =>
            part.quote ? (
              <ReaderQuote key={i} token={token} quote={part.quote} caption={part.caption} onOpen={onOpen} edge="border-line" />
            ) : (
              part.text && <RichTextShown key={i} text={part.text} />
            ),
          )}
        </div>
        <div className="space-y-3.5">
          {quotes.map((quote) => (
            <ReaderQuote
              key={quote.key}
              token={token}
              quote={quote}
              onOpen={onOpen}
              edge={quote.stance === 'contradicts' ? 'border-oxblood' : 'border-verdigris'}
            />
          ))}
          {first.length < told.length && (
            <button type="button" className="min-h-6 text-[13px] text-sky hover:underline print:hidden" onClick={() => setAll(!all)}>
              {all ? 'Show fewer' : `Show all ${told.length} quotes`}
            </button>
          )}
        </div>
      </div>
    </DisplayCard>
  );
}

interface QuoteProps {
  token: string;
  quote: Schemas['ReaderQuote'];
  caption?: string;
  edge: string;
  onOpen: (quote: Schemas['ReaderQuote']) => void;
}

function ReaderQuote({ token, quote, caption = '', edge, onOpen }: QuoteProps) {
  return (
    <blockquote className={`my-3 border-l-[3px] pl-3.5 ${edge}`}>
      {quote.words !== '' && <p className="font-read text-[15.5px] leading-[1.5] whitespace-pre-line italic">{quote.words}</p>}
      <SeenOrHeard token={token} quote={quote} />
      {caption !== '' && <p className="text-[13px]">{caption}</p>}
      <footer className="mt-0.5 font-use text-[12.5px] text-ink-soft">
        {quote.who}, {kindWords[quote.kind].one}
        {quote.stance === 'contradicts' && ', says otherwise'}.{' '}
        {quote.words !== '' && (
          <button type="button" className="min-h-6 text-sky hover:underline print:hidden" onClick={() => onOpen(quote)}>
            In context
          </button>
        )}
      </footer>
    </blockquote>
  );
}

/** The part of a recording or picture that goes with a quote: that part alone. */
function SeenOrHeard({ token, quote }: { token: string; quote: Schemas['ReaderQuote'] }) {
  if (quote.cutout === null) return null;
  const address = `/api/read/${token}/cutout/${quote.key}`;
  if (quote.cutout === 'picture')
    return <img src={address} alt={`A part of a picture, ${quote.who}`} className="my-1 max-h-60 max-w-full rounded-[2px] border border-line" />;
  const film = quote.cutout === 'film';
  return (
    <div className="mt-1">
      <Clip address={address} film={film} label={`Clip, ${quote.who}`} says={film ? 'See it said' : 'Hear it said'} />
    </div>
  );
}

/** The turns around a quote: what was asked, and what was said before and after. */
function Context({ token, quote, onClose }: { token: string; quote: Schemas['ReaderQuote']; onClose: () => void }) {
  const { data: context, error } = useQuery(queries.readContext(token, quote.key));
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`${quote.who}, in context`}
      intro={`${count(context?.turns.length ?? 0, 'turn')} around the quote. Kind of source: ${kindWords[quote.kind].one}.`}
      wide
    >
      {error && <p role="alert">{error.message}</p>}
      {context?.turns.map((turn, i) => (
        <div key={i} className="mb-4 grid grid-cols-[88px_1fr] gap-3">
          <p className="text-right text-[12.5px]">
            <span className="block font-semibold">{turn.who}</span>
            {turn.atMs !== null && <span className="text-ink-soft">{clock(turn.atMs)}</span>}
          </p>
          <p className={`font-read text-[16px] leading-[1.55] whitespace-pre-line ${turn.isTeam ? 'text-ink-soft' : ''}`}>
            {turn.quoteStart === null || turn.quoteEnd === null ? (
              turn.words
            ) : (
              <>
                {turn.words.slice(0, turn.quoteStart)}
                <mark className="bg-(--mark-focus) text-ink">{turn.words.slice(turn.quoteStart, turn.quoteEnd)}</mark>
                {turn.words.slice(turn.quoteEnd)}
              </>
            )}
          </p>
        </div>
      ))}
    </Dialog>
  );
}
