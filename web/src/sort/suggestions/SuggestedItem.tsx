import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { QuoteItem } from '@/parts/QuoteItem';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { count } from '@/parts/words';
import type { Item } from './walk';

interface Props {
  studyId: number;
  item: Item;
  current: boolean;
  tag: Schemas['Tag'] | undefined;
  quote: Schemas['Quote'] | undefined;
  look: (id: number) => TagLook;
  who: (id: number | null) => string;
  children?: ReactNode;
}

const answers: Record<Item['answer'], string> = { open: '', later: 'put off', accepted: 'in the theme', refused: 'said no' };

/** Why it is suggested there, in a sentence. */
export function whyWords({ why }: Item): string {
  if (!why) return '';
  const shared = why.words.length > 0 && `shares ${why.words.map((w) => `“${w}”`).join(', ')}`;
  const touching =
    why.touching > 0 &&
    (why.observations === 1 ? 'stands next to one of the others' : `${why.touching} of its ${count(why.observations, 'observation')} touch the others’`);
  const words = [shared, touching].filter(Boolean).join('; ');
  return words === '' ? '' : `${words[0]!.toUpperCase()}${words.slice(1)}.`;
}

/** Something that is suggested somewhere: in one line, or with all that helps to decide while it is looked at. */
export function SuggestedItem({ studyId, item, current, tag, quote, look, who, children }: Props) {
  const name = tag ? (
    <span className="flex min-w-0 items-center gap-2">
      <TagDot look={look(tag.id)} />
      <span className="truncate font-medium">{tag.name}</span>
    </span>
  ) : (
    <span className="min-w-0 truncate font-read text-[14.5px]">{quote ? quote.words : '…'}</span>
  );
  if (!current)
    return (
      <span className="flex items-baseline gap-3 text-ink-soft">
        {name}
        <span className="ml-auto shrink-0 text-[12px]">
          {answers[item.answer] || (tag && item.why ? count(item.why.observations, 'observation') : quote && who(quote.participantId))}
        </span>
      </span>
    );
  return (
    <>
      {tag ? (
        <>
          <p className="flex items-baseline gap-3 text-[15px]">
            {name}
            {item.why && <span className="ml-auto text-[12px] text-ink-soft">{count(item.why.observations, 'observation')}</span>}
          </p>
          {tag.definition && <p className="mt-0.5 text-[13px] text-ink-soft">{tag.definition}</p>}
          <TagWords studyId={studyId} tagId={tag.id} who={who} />
        </>
      ) : (
        quote && <QuoteItem quote={quote} who={who(quote.participantId)} studyId={studyId} look={look} />
      )}
      <p className="mt-1.5 text-[12.5px] text-ink-soft">
        {whyWords(item)} {item.mixes && <span className="text-brass">It mixes good and bad.</span>}
      </p>
      {answers[item.answer] && (
        <p className="mt-1 text-[12.5px] text-brass">{item.answer === 'later' ? 'Put off: decide now, or leave it.' : `Answered: ${answers[item.answer]}.`}</p>
      )}
      {children}
    </>
  );
}

/** So many quotes say what a tag is on. */
const mostQuotes = 2;

function TagWords({ studyId, tagId, who }: { studyId: number; tagId: number; who: Props['who'] }) {
  const told = useQuery(queries.tellingQuotes(studyId, tagId)).data;
  return (
    <ul className="mt-1.5 min-h-[46px] border-l-2 border-line pl-3 font-read text-[14.5px] leading-[1.5]">
      {told?.telling.slice(0, mostQuotes).map(({ quote }) => (
        <li key={quote.observationId} className="line-clamp-2">
          {quote.words} <span className="font-use text-[12px] text-ink-soft">{who(quote.participantId)}</span>
        </li>
      ))}
    </ul>
  );
}
