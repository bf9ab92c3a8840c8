import { Link } from '@tanstack/react-router';
import type { KeyboardEvent } from 'react';
import type { Schemas } from '@/api/client';
import { pressed } from '@/parts/actions/actions';
import { Key } from '@/parts/Button';
import { TagLabel } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { clock } from '@/parts/words';
import { settling } from './actions';
import { outcomes, settledInWords, type Outcome } from './inWords';

interface Props {
  studyId: number;
  of: Schemas['Disagreement'];
  /** Their first names. */
  first: string;
  second: string;
  /** Whether who was called the first when it was settled is called the second here. */
  turned: boolean;
  title: string;
  look: (id: number) => TagLook;
  colour: string;
  onSettle: (outcome: Outcome) => void;
}

/** One passage that two people have marked differently, in its context; settled by a key. */
export function Disagreement({ studyId, of, first, second, turned, title, look, colour, onSettle }: Props) {
  const only = (mine: readonly number[], theirs: readonly number[]) => mine.filter((id) => !theirs.includes(id));
  const settle = (key: string) => {
    const found = outcomes.find((o) => o.key === key);
    if (found) onSettle(found.outcome);
  };
  const keys = (event: KeyboardEvent) => event.target === event.currentTarget && pressed(settling, settle, event);
  const side = (name: string, has: readonly number[]) => (
    <span className="flex flex-wrap items-center gap-1.5">
      <span className="font-semibold text-ink">{name}</span>
      {has.length === 0 ? 'nothing of it' : has.map((id) => <TagLabel key={id} look={look(id)} />)}
    </span>
  );
  return (
    <li
      tabIndex={0}
      onKeyDown={keys}
      aria-label={of.inTime ? `${clock(of.start)} of ${title}` : of.words}
      className={`border-b border-line py-3 outline-offset-2 ${of.settled && of.settled.outcome !== 'talk' ? 'opacity-55 focus-within:opacity-100 focus:opacity-100' : ''}`}
    >
      {of.inTime ? (
        <p className="font-read text-[16px]">
          <span className="bg-brass-wash px-1" style={{ [of.first ? 'borderTop' : 'borderBottom']: `2px solid ${colour}` }}>
            {clock(of.start)} to {clock(of.end)}
          </span>
        </p>
      ) : (
        <p className="font-read text-[16px] leading-[30px] wrap-anywhere whitespace-pre-line">
          <span className="text-ink-soft">{of.before}</span>
          <span className="bg-brass-wash" style={{ [of.first ? 'borderTop' : 'borderBottom']: `2px solid ${colour}` }}>
            {of.words}
          </span>
          <span className="text-ink-soft">{of.after}</span>
        </p>
      )}
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 text-[12px] text-ink-soft">
        {side(first, only(of.firstTagIds, of.secondTagIds))}
        {side(second, only(of.secondTagIds, of.firstTagIds))}
        <span className="ml-auto">{title}</span>
        <Link
          to="/studies/$studyId/mark"
          params={{ studyId }}
          search={{ source: of.sourceId, ...(of.inTime ? { at: of.marks[0]?.observation ?? 0 } : { place: of.start }) }}
          className="text-sky hover:underline"
        >
          open in place
        </Link>
      </div>
      <div role="group" aria-label="Settle it" className="mt-1 flex flex-wrap items-center gap-x-3 text-[12.5px]">
        {outcomes.map((o) => (
          <button key={o.key} type="button" tabIndex={-1} className="min-h-6 text-sky hover:underline" onClick={() => onSettle(o.outcome)}>
            <Key>{o.key}</Key> {o.words(first, second)}
          </button>
        ))}
        {of.settled && (
          <span className="ml-auto font-medium">{settledInWords(turned ? swapped(of.settled.outcome) : of.settled.outcome, first, second, of.settled.by)}</span>
        )}
        {of.late && <span className="text-brass">marked after it was opened</span>}
      </div>
    </li>
  );
}

const swapped = (outcome: Outcome): Outcome => (outcome === 'first' ? 'second' : outcome === 'second' ? 'first' : outcome);
