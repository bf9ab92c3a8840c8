import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Dialog } from '@/parts/Dialog';
import { FormEnd } from '@/parts/FormEnd';
import { QuoteWords } from '@/parts/QuoteWords';
import { useSettled } from '@/parts/useSettled';
import type { Split } from './split';

interface Props {
  studyId: number;
  split: Split;
  people: readonly Schemas['Participant'][];
  onSend: (ids: number[], tray: number) => void;
  onClose: () => void;
}

/** As many quotes are looked at here at most. */
const mostShown = 100;
const field = 'min-h-8 rounded-std border border-line bg-paper px-2.5 py-1';

/** Many at once: all that hold a word, or are of one person; looked at first, and any of them left out. */
export function DecideMany({ studyId, split, people, onSend, onClose }: Props) {
  const [typed, setTyped] = useState('');
  const [personId, setPerson] = useState<number | null>(null);
  const [tray, setTray] = useState(split.trays[0]!.number);
  const [without, setWithout] = useState<ReadonlySet<number>>(new Set());
  const words = useSettled(typed.trim(), 200);
  const asks = words !== '' || personId !== null;
  const holding = useQuery({
    ...queries.splitHolding(studyId, split.wide.id, words, personId, split.decisions.length),
    enabled: asks,
    placeholderData: keepPreviousData,
  }).data;
  const found = asks ? (holding ?? []) : [];
  const items = useQuery({ ...queries.splitItems(studyId, split.wide.id, found.slice(0, mostShown), 0), enabled: found.length > 0 }).data ?? [];
  const going = found.filter((id) => !without.has(id));
  const here = new Set(split.people);
  const name = split.trays.find((t) => t.number === tray)?.name ?? '';
  return (
    <Dialog open wide onOpenChange={(open) => !open && onClose()} title="Many at once" intro="Only what is not decided yet. Look at them before they go.">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (going.length > 0) onSend(going, tray);
        }}
      >
        <div className="flex flex-wrap items-center gap-2 text-[13.5px]">
          all with
          <input
            autoFocus
            aria-label="A word, in any form"
            placeholder="a word, in any form"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            className={`${field} w-[180px]`}
          />
          of
          <select
            aria-label="Whose"
            value={personId ?? ''}
            onChange={(e) => setPerson(e.target.value === '' ? null : Number(e.target.value))}
            className={field}
          >
            <option value="">anyone</option>
            {people
              .filter((p) => here.has(p.id))
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.pseudonym}
                </option>
              ))}
          </select>
          to
          <select aria-label="Tray" value={tray} onChange={(e) => setTray(Number(e.target.value))} className={field}>
            {split.trays.map((t) => (
              <option key={t.number} value={t.number}>
                {t.name}
              </option>
            ))}
          </select>
        </div>
        <p role="status" className="mt-3 text-[13px] text-ink-soft">
          {!asks ? 'Type a word, or choose a person.' : `${going.length} would go.`}
          {found.length > mostShown && ` The first ${mostShown} are shown.`}
        </p>
        {asks && (
          <ul aria-label="What would go" className="mt-1 max-h-[42vh] overflow-y-auto">
            {items.map(({ quote }) => (
              <li key={quote.observationId} className="border-t border-line py-1.5">
                <label className="flex gap-2.5">
                  <input
                    type="checkbox"
                    className="mt-1.5"
                    checked={!without.has(quote.observationId)}
                    onChange={() =>
                      setWithout((all) => {
                        const now = new Set(all);
                        if (!now.delete(quote.observationId)) now.add(quote.observationId);
                        return now;
                      })
                    }
                  />
                  <span className="min-w-0 font-read text-[14.5px] leading-[22px]">
                    <QuoteWords quote={quote} />
                    <span className="ml-2 font-use text-[12px] text-ink-soft">
                      {people.find((p) => p.id === quote.participantId)?.pseudonym ?? 'Unattributed'}
                    </span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
        )}
        <FormEnd save={`Send ${going.length} to “${name}”`} busy={going.length === 0} onLeave={onClose} />
      </form>
    </Dialog>
  );
}
