import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { clock, count } from '@/parts/words';
import { styleWords } from './styleWords';

type Style = Schemas['TurnStyle'];

/** How the text's turns were understood, and other ways to read them. Marks stay where they are. */
export function TurnReadings({ sourceId }: { sourceId: number }) {
  const [open, setOpen] = useState(false);
  const readings = useQuery({ ...queries.turnReadings(sourceId), enabled: open }).data;
  const guess = useQuery({ ...queries.sourceLook(sourceId), enabled: open }).data;
  const [chosen, setChosen] = useState<Style | null>(null);
  const read = useWrite((style: Style) => ask(api.PUT('/api/sources/{id}/turns', { params: { path: { id: sourceId } }, body: { style } })));
  const now = readings?.find((r) => r.now);
  const shown = readings?.find((r) => r.style === (chosen ?? now?.style)) ?? readings?.[0];
  return (
    <details className="mb-5 rounded-std border border-line bg-paper px-4 py-2.5" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold">How its turns were understood</summary>
      {readings && shown && (
        <div className="mt-2">
          <div className="flex items-center gap-2">
            <select
              aria-label="How turns are written in it"
              className="min-h-8 flex-1 rounded-std border border-line bg-case px-2"
              value={shown.style}
              onChange={(e) => setChosen(e.target.value as Style)}
            >
              {readings.map((r) => (
                <option key={r.style} value={r.style}>
                  {styleWords[r.style]}: {r.speakers > 0 ? `${count(r.turns, 'turn')} by ${count(r.speakers, 'speaker')}` : count(r.turns, 'paragraph')}
                  {r.now ? ' (as it is now)' : guess?.runnerUp === r.style ? ' (the next guess)' : ''}
                </option>
              ))}
            </select>
            <Button disabled={shown.now || read.isPending} onClick={() => read.mutate(shown.style, { onSuccess: () => setChosen(null) })}>
              Read it so
            </Button>
          </div>
          {guess?.runnerUp && guess.runnerUp !== 'noTurns' && (
            <p className="mt-2 text-[12.5px] text-ink-soft">
              It looks most like “{styleWords[guess.style]}”; next comes “{styleWords[guess.runnerUp]}”.
            </p>
          )}
          <ol aria-label="Its first turns" className="mt-3 space-y-1.5">
            {shown.first.map((turn, i) => (
              <li key={i} className="grid grid-cols-[96px_1fr] gap-3">
                <span className="truncate text-right text-[12.5px] font-semibold">
                  {turn.speaker}
                  {turn.beginMs !== null && <span className="block text-[11.5px] font-normal text-ink-soft">{clock(turn.beginMs)}</span>}
                </span>
                <span className="line-clamp-2 font-read text-[14.5px]">{turn.words}</span>
              </li>
            ))}
          </ol>
        </div>
      )}
    </details>
  );
}
