import { Link } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { Button } from '@/parts/Button';
import { day } from '@/parts/words';

interface Props {
  piece: Schemas['Feedback'];
  channel: Schemas['Channel'] | undefined;
  studies: readonly Schemas['StudyLine'][];
  first: boolean;
  onSettle: (routing: Schemas['Routing'], state: Schemas['RoutingState'], senderTakesPart?: boolean) => void;
  onRoute: (studyId: number) => void;
}

/** One piece of feedback: its words, where it came from, which watch put it where, and the decision. */
export function FeedbackItem({ piece, channel, studies, first, onSettle, onRoute }: Props) {
  const titleOf = (studyId: number) => studies.find((s) => s.id === studyId)?.title ?? 'a study';
  const others = studies.filter((s) => !piece.routings.some((r) => r.studyId === s.id));
  const meta = [piece.sender, channel?.name, day(piece.writtenAt), piece.rating === null ? null : `rated ${piece.rating}`].filter(Boolean).join(', ');
  return (
    <article
      data-piece={piece.id}
      tabIndex={0}
      aria-label={piece.title || piece.text.slice(0, 60)}
      className={`px-2 py-3.5 -outline-offset-2 ${first ? '' : 'border-t border-line'}`}
    >
      {piece.title && <p className="font-read text-[16px] font-semibold">{piece.title}</p>}
      <p className="font-read text-[15.5px] leading-[1.5] wrap-anywhere whitespace-pre-line">{piece.text}</p>
      <p className="mt-1 text-[12.5px] text-ink-soft">{meta}</p>
      <ul className="mt-1.5 space-y-1">
        {piece.routings.map((r) => (
          <li key={r.id} className="flex flex-wrap items-center gap-x-2 text-[13px]">
            <span className="font-medium">{titleOf(r.studyId)}</span>
            <span className="text-ink-soft">{r.watchName ? `by the watch ${r.watchName}: ${r.met}` : 'put there by hand'}</span>
            <span className="ml-auto flex items-center gap-1.5">
              {r.state === 'waiting' ? (
                <>
                  <Button className="!min-h-7" onClick={() => onSettle(r, 'kept')}>
                    Keep
                  </Button>
                  {piece.sender && (
                    <Button look="quiet" className="!min-h-7" onClick={() => onSettle(r, 'kept', true)}>
                      Keep with its sender
                    </Button>
                  )}
                  <Button look="quiet" className="!min-h-7" onClick={() => onSettle(r, 'dismissed')}>
                    Dismiss
                  </Button>
                </>
              ) : r.state === 'kept' && r.sourceId !== null ? (
                <Link
                  to="/studies/$studyId/mark"
                  params={{ studyId: r.studyId }}
                  search={{ source: r.sourceId }}
                  className="text-sky underline-offset-2 hover:underline"
                >
                  kept, open it
                </Link>
              ) : (
                <>
                  <span className="text-ink-soft">dismissed</span>
                  <Button look="quiet" className="!min-h-7" onClick={() => onSettle(r, 'waiting')}>
                    Decide again
                  </Button>
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <select
          aria-label="Put it into a study"
          className="mt-1.5 min-h-7 max-w-full rounded-std border border-transparent bg-transparent text-[12.5px] text-ink-soft hover:border-line hover:text-ink focus:border-line"
          value=""
          onChange={(e) => onRoute(Number(e.target.value))}
        >
          <option value="">{piece.routings.length === 0 ? 'Put it into a study' : 'Put it into another study'}</option>
          {others.map((s) => (
            <option key={s.id} value={s.id}>
              {s.title}
            </option>
          ))}
        </select>
      )}
    </article>
  );
}
