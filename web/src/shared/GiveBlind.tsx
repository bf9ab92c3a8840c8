import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Problem } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { Box } from '@/parts/WordChoices';

interface Props {
  studyId: number;
  sourceId: number;
  onClose: () => void;
}

/** Gives a source to people who tag it without seeing each other's marks. */
export function GiveBlind({ studyId, sourceId, onClose }: Props) {
  const members = useQuery(queries.members(studyId)).data ?? [];
  const team = (useQuery(queries.accounts()).data ?? []).filter((a) => !a.closed && a.role !== 'reader' && (a.role === 'steward' || members.includes(a.id)));
  const there = useQuery(queries.blind(sourceId)).data?.taggers ?? [];
  const [changed, setChanged] = useState<readonly number[] | null>(null);
  const chosen = changed ?? there.map((t) => t.accountId);
  const give = useWrite(() => ask(api.PUT('/api/sources/{id}/blind', { params: { path: { id: sourceId } }, body: { accountIds: [...chosen] } })), {
    own: true,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    give.mutate(undefined, { onSuccess: onClose });
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Tag it blind"
      intro="Two or more people tag this source without seeing each other’s marks, notes and counts. It opens when all have said done."
    >
      <form onSubmit={submit}>
        <Problem of={give.error} />
        <fieldset className="mb-3">
          <legend className="mb-1 text-[12.5px] text-ink-soft">Who tags it</legend>
          {team.map((a) => (
            <Box
              key={a.id}
              label={a.name}
              on={chosen.includes(a.id)}
              onChange={() => setChanged(chosen.includes(a.id) ? chosen.filter((id) => id !== a.id) : [...chosen, a.id])}
            />
          ))}
        </fieldset>
        <FormEnd save="Give it to them" onLeave={onClose} busy={give.isPending} />
      </form>
    </Dialog>
  );
}
