import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { WatchDialog } from './WatchDialog';

/** The rules that route feedback into studies. */
export function WatchList({ studies, study }: { studies: readonly Schemas['StudyLine'][]; study: number | undefined }) {
  const watches = useQuery(queries.watches()).data ?? [];
  const channels = useQuery(queries.channels()).data ?? [];
  const [open, setOpen] = useState<Schemas['Watch'] | 'new' | null>(null);
  const shown = watches.filter((w) => study === undefined || w.studyId === study);
  return (
    <section aria-label="Watches" className="mb-8">
      <div className="mb-2 flex items-center justify-between">
        <h2 className="text-[14px] font-semibold">Watches</h2>
        {studies.length > 0 && <Button onClick={() => setOpen('new')}>New watch</Button>}
      </div>
      {shown.length === 0 && <p className="text-[13px] text-ink-soft">A watch puts feedback with certain words, senders or ratings into a study by itself.</p>}
      <ul>
        {shown.map((w) => (
          <li key={w.id} className="border-t border-line py-2">
            <button type="button" className="block w-full rounded-[3px] text-left hover:underline" onClick={() => setOpen(w)}>
              <span className="font-medium">{w.name}</span>
            </button>
            <span className="block text-[12.5px] text-ink-soft">
              {saidOf(w.rule, channels)}, into {studies.find((s) => s.id === w.studyId)?.title}
            </span>
          </li>
        ))}
      </ul>
      {open !== null && (
        <WatchDialog
          key={open === 'new' ? 'new' : open.id}
          watch={open === 'new' ? null : open}
          studies={studies}
          studyId={open === 'new' ? (study ?? studies[0]!.id) : open.studyId}
          onClose={() => setOpen(null)}
        />
      )}
    </section>
  );
}

function saidOf(rule: Schemas['WatchRule'], channels: readonly Schemas['Channel'][]): string {
  const rating =
    rule.ratingFrom !== null && rule.ratingTo !== null
      ? `rated ${rule.ratingFrom} to ${rule.ratingTo}`
      : rule.ratingFrom !== null
        ? `rated ${rule.ratingFrom} or more`
        : rule.ratingTo !== null
          ? `rated ${rule.ratingTo} or less`
          : null;
  return [
    rule.words.length > 0 ? rule.words.join(rule.allWords ? ' and ' : ' or ') : null,
    rule.sender && `from ${rule.sender}`,
    rating,
    rule.channelId !== null && `on ${channels.find((c) => c.id === rule.channelId)?.name ?? 'one channel'}`,
  ]
    .filter(Boolean)
    .join(', ');
}
