import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState, type KeyboardEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { ActionHints } from '@/parts/actions/ActionHints';
import { pressed } from '@/parts/actions/actions';
import { useRowActions } from '@/parts/actions/registry';
import { Empty, Waiting } from '@/parts/Empty';
import { LongList } from '@/parts/LongList';
import { useSettled } from '@/parts/useSettled';
import { useMore } from '@/shared/useMore';
import { pieces, type PieceActs } from './actions';
import { ChannelList } from './ChannelList';
import { FeedbackItem } from './FeedbackItem';
import { views, viewWords } from './views';
import { WatchList } from './WatchList';

/** Where feedback from outside arrives: what came, which watch put it where, and what becomes of it. */
export function IntakePage() {
  const { view = 'waiting', study } = useSearch({ from: '/team/intake' });
  const navigate = useNavigate();
  const studies = useQuery(queries.studies()).data ?? [];
  const channels = useQuery(queries.channels()).data ?? [];
  const [typed, setTyped] = useState('');
  const words = useSettled(typed.trim(), 200);
  const arrived = useInfiniteQuery(queries.intake({ view, words, ...(study === undefined ? {} : { studyId: study }) }));
  const settle = useWrite(
    ({ routing, state, senderTakesPart = false }: { routing: Schemas['Routing']; state: Schemas['RoutingState']; senderTakesPart?: boolean }) =>
      ask(
        api.POST('/api/studies/{studyId}/routings', {
          params: { path: { studyId: routing.studyId } },
          body: { routingIds: [routing.id], state, senderTakesPart },
        }),
      ),
  );
  const route = useWrite(({ studyId, feedbackId }: { studyId: number; feedbackId: number }) =>
    ask(api.POST('/api/studies/{studyId}/feedback/{feedbackId}', { params: { path: { studyId, feedbackId } } })),
  );
  const more = useMore(arrived);
  useRowActions(pieces);
  const pages = arrived.data?.pages;
  if (!pages) return <Waiting problem={arrived.error} />;
  const shown = pages.flatMap((page) => page.feedback);
  const { total, counts } = pages[0]!;
  const go = (to: Schemas['Feedback'] | undefined) => document.querySelector<HTMLElement>(`[data-piece="${to?.id}"]`)?.focus();
  const keys = (event: KeyboardEvent) => {
    const item = (event.target as HTMLElement).closest<HTMLElement>('[data-piece]');
    const at = shown.findIndex((p) => p.id === Number(item?.dataset['piece']));
    if (!item || at < 0) return;
    const acts: PieceActs = {
      step: (by) => go(shown[at + by]),
      settle: (state, senderTakesPart) => {
        const routing = shown[at]!.routings.find((r) => r.state === 'waiting' && (study === undefined || r.studyId === study));
        if (!routing || event.target !== item) return false;
        go(shown[at + 1] ?? shown[at - 1]);
        settle.mutate({ routing, state, senderTakesPart });
        return true;
      },
    };
    pressed(pieces, acts, event);
  };
  return (
    <main className="grid h-full grid-cols-[200px_minmax(0,1fr)_330px] border-t border-line">
      <nav aria-label="What is shown" className="overflow-y-auto border-r border-line px-5 py-6">
        <h1 className="mb-4 font-read text-[24px] font-semibold">Intake</h1>
        <ul className="mb-6 space-y-0.5">
          {views.map((v) => (
            <li key={v}>
              <Link
                to="/intake"
                search={{ view: v, ...(study === undefined ? {} : { study }) }}
                aria-current={v === view ? 'page' : undefined}
                className={`flex min-h-7 items-center justify-between ${v === view ? 'font-semibold' : 'text-ink-soft hover:text-ink'}`}
              >
                {viewWords[v]} <span className="text-[12.5px]">{counts[v]}</span>
              </Link>
            </li>
          ))}
        </ul>
        <label className="block text-[12.5px] text-ink-soft">
          Study
          <select
            className="mt-1 block min-h-8 w-full rounded-std border border-line bg-case px-1.5 text-[13.5px] text-ink"
            value={study ?? ''}
            onChange={(e) => void navigate({ to: '/intake', search: { view, ...(e.target.value ? { study: Number(e.target.value) } : {}) } })}
          >
            <option value="">all studies</option>
            {studies.map((s) => (
              <option key={s.id} value={s.id}>
                {s.title}
              </option>
            ))}
          </select>
        </label>
      </nav>
      <section aria-label="Feedback" className="flex min-h-0 flex-col px-6 pt-6">
        <input
          aria-label="Find in the feedback"
          placeholder="Find in the feedback"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="mb-3 w-full max-w-[340px] rounded-std border border-line bg-case px-2.5 py-1 placeholder:text-ink-soft"
        />
        {counts.all === 0 && study === undefined ? (
          <Empty title="Nothing has arrived yet" sample="“The four o’clock was cancelled and nobody rang.”  by the watch “Cancellations”">
            Feedback from outside comes in on channels: files of feeds and e-mails, or another program that sends to an address here. Watches put what concerns
            a study into it; you keep it as a source, or dismiss it.
          </Empty>
        ) : shown.length === 0 ? (
          <p className="py-10 text-center text-ink-soft">
            {typed ? 'Nothing here holds these words.' : view === 'waiting' ? 'Everything that was routed is decided.' : 'Nothing here.'}
          </p>
        ) : (
          <>
            <div className="flex min-h-0 flex-1 flex-col" onKeyDown={keys}>
              <LongList
                label="Pieces of feedback"
                items={shown}
                keyOf={(piece) => piece.id}
                height={120}
                total={total}
                onNearEnd={more}
                className="min-h-0 flex-1"
              >
                {(piece, at) => (
                  <FeedbackItem
                    piece={piece}
                    channel={channels.find((c) => c.id === piece.channelId)}
                    studies={studies}
                    first={at === 0}
                    onSettle={(routing, state, senderTakesPart) => settle.mutate({ routing, state, senderTakesPart })}
                    onRoute={(studyId) => route.mutate({ studyId, feedbackId: piece.id })}
                  />
                )}
              </LongList>
            </div>
            <p className="border-t border-line py-2 text-[12px] text-ink-soft">
              <ActionHints of={Object.values(pieces.actions)} />
            </p>
          </>
        )}
      </section>
      <aside aria-label="Watches and channels" className="overflow-y-auto border-l border-line px-5 py-6">
        <WatchList studies={studies} study={study} />
        <ChannelList channels={channels} />
      </aside>
    </main>
  );
}
