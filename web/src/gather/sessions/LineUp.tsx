import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { clock } from '@/parts/words';
import { milliseconds } from './milliseconds';

const field = 'min-h-8 w-[84px] rounded-std border border-line bg-case px-2 tabular-nums';

/** Lines a source's times up with the recording of its session, by one moment that both have. */
export function LineUp({ source }: { source: Schemas['SourceLine'] }) {
  const [own, setOwn] = useState('');
  const [heard, setHeard] = useState('');
  const [from, to] = [milliseconds(own), milliseconds(heard)];
  const path = { id: source.id };
  const set = useWrite((offsetMs: number) => ask(api.PUT('/api/sources/{id}/offset', { params: { path }, body: { offsetMs } })));
  const able = from !== null && to !== null;
  return (
    <fieldset className="mb-4 rounded-std border border-line px-4 pt-1 pb-3">
      <legend className="px-1 text-[13px] font-medium">Its times beside the recording</legend>
      <p className="mb-2 text-[12.5px] text-ink-soft">
        {source.offsetMs === 0
          ? 'Its times are shown as they were noted.'
          : `Its times are shown ${clock(Math.abs(source.offsetMs))} ${source.offsetMs > 0 ? 'later' : 'earlier'} than they were noted.`}{' '}
        Name one moment that stands in both.
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <label htmlFor="own-time">What was noted at</label>
        <input id="own-time" className={field} placeholder="12:03" value={own} onChange={(e) => setOwn(e.target.value)} />
        <label htmlFor="heard-time">is in the recording at</label>
        <input id="heard-time" className={field} placeholder="10:48" value={heard} onChange={(e) => setHeard(e.target.value)} />
        <Button disabled={!able || set.isPending} onClick={() => able && set.mutate(to - from)}>
          Line up
        </Button>
        {source.offsetMs !== 0 && (
          <Button look="quiet" onClick={() => set.mutate(0)}>
            As noted
          </Button>
        )}
      </div>
    </fieldset>
  );
}
