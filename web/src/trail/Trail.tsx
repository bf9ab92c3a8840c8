import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { queries, type TrailOf } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Waiting } from '@/parts/Empty';
import { moment } from '@/parts/words';

const lower = (label: string) => label.charAt(0).toLowerCase() + label.slice(1);

/** Who did what when, newest first. */
export function TrailList({ entries }: { entries: readonly Schemas['TrailEntry'][] }) {
  return (
    <ol aria-label="Trail" className="space-y-1.5">
      {entries.map((entry) => (
        <li key={entry.actionId}>
          <span className={entry.undone ? 'text-ink-soft line-through' : ''}>
            <span className="font-semibold">{entry.who}</span> {lower(entry.label)}
          </span>
          <span className="block text-[12px] text-ink-soft">
            {moment(entry.at)}
            {entry.undone && ', undone'}
          </span>
        </li>
      ))}
    </ol>
  );
}

/** Opens the trail of a thing. */
export function TrailButton({ of, className = '' }: { of: TrailOf & { name: string }; className?: string }) {
  const [open, setOpen] = useState(false);
  const { data, error } = useQuery({ ...queries.trail(of), enabled: open });
  return (
    <>
      <Button look="quiet" className={className} aria-label={`Trail of ${of.name}`} onClick={() => setOpen(true)}>
        Trail
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title="Trail" intro={of.name}>
        {data ? <TrailList entries={data} /> : <Waiting problem={error} />}
      </Dialog>
    </>
  );
}
