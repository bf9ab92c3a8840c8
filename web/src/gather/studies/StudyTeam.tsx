import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { roleWords } from '@/parts/words';

/** Who works on the study, and so sees it. */
export function StudyTeam({ studyId }: { studyId: number }) {
  const stored = useQuery(queries.members(studyId)).data ?? [];
  const accounts = useQuery(queries.accounts()).data ?? [];
  const me = useQuery(queries.me()).data?.account;
  const [changing, setChanging] = useState(false);
  const set = useWrite((accountIds: number[]) => ask(api.PUT('/api/studies/{studyId}/members', { params: { path: { studyId } }, body: { accountIds } })), {
    quiet: true,
  });
  // A box stays as it was clicked from the click on, and not from when the write has begun.
  const [wanted, setWanted] = useState<number[] | null>(null);
  const members = wanted ?? stored;
  const change = (next: number[]) => {
    setWanted(next);
    set.mutate(next, { onSettled: () => setWanted(null) });
  };
  const able = accounts.filter((a) => a.role !== 'reader' && (!a.closed || members.includes(a.id)));
  const names = able.filter((a) => members.includes(a.id)).map((a) => a.name);
  return (
    <div className="flex items-baseline gap-3">
      <p className="flex-1">{names.length > 0 ? names.join(', ') : 'Nobody but the steward sees this study.'}</p>
      {me?.role !== 'noteTaker' && (
        <Button look="quiet" className="shrink-0" aria-label="Change the team" onClick={() => setChanging(true)}>
          Change
        </Button>
      )}
      <Dialog
        open={changing}
        onOpenChange={setChanging}
        title="The study’s team"
        intro="Whoever is ticked sees this study and works on it. A steward sees every study."
      >
        <ul>
          {able.map((account) => (
            <li key={account.id}>
              <label className="flex min-h-8 items-center gap-2.5">
                <input
                  type="checkbox"
                  className="size-4 accent-verdigris"
                  checked={members.includes(account.id)}
                  onChange={(e) => change(e.target.checked ? [...members, account.id] : members.filter((m) => m !== account.id))}
                />
                {account.name}
                <span className="text-ink-soft">{roleWords[account.role].one}</span>
              </label>
            </li>
          ))}
        </ul>
      </Dialog>
    </div>
  );
}
