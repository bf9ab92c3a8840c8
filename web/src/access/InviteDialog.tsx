import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { SecretLink } from '@/parts/SecretLink';
import { roles, roleWords } from '@/parts/words';

/** Makes an invitation, and shows its link this once. */
export function InviteDialog({ onClose }: { onClose: () => void }) {
  const studies = useQuery(queries.studies()).data ?? [];
  const cache = useQueryClient();
  const [given, setGiven] = useState<Schemas['NewInvitation']>({ name: '', email: '', role: 'researcher', studyIds: [] });
  const [problem, setProblem] = useState<Error | null>(null);
  const [link, setLink] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask(api.POST('/api/invitations', { body: given })).then(({ token }) => {
      setLink(`${location.origin}/join/${token}`);
      return cache.invalidateQueries();
    }, setProblem);
  };
  const toggle = (id: number, on: boolean) => setGiven({ ...given, studyIds: on ? [...given.studyIds, id] : given.studyIds.filter((s) => s !== id) });
  if (link)
    return (
      <Dialog
        open
        onOpenChange={(open) => !open && onClose()}
        title={`Send this link to ${given.name}`}
        intro="It is shown this once, works for 14 days, and opens one account."
      >
        <SecretLink label="Link of the invitation" address={link} />
        <div className="mt-4 flex justify-end">
          <Button onClick={onClose}>Done</Button>
        </div>
      </Dialog>
    );
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Invite someone" intro="They get a link, and choose their own password.">
      <form onSubmit={submit}>
        <Problem of={problem} />
        <TextField label="Name" autoFocus value={given.name} onChange={(e) => setGiven({ ...given, name: e.target.value })} />
        <TextField label="E-mail address" type="email" value={given.email} onChange={(e) => setGiven({ ...given, email: e.target.value })} />
        <Choice
          label="Role"
          hint={roleWords[given.role].may}
          value={given.role}
          onChange={(e) => setGiven({ ...given, role: e.target.value as Schemas['Role'] })}
        >
          {roles.map((role) => (
            <option key={role} value={role}>
              {roleWords[role].one}
            </option>
          ))}
        </Choice>
        {given.role !== 'reader' && given.role !== 'steward' && studies.length > 0 && (
          <fieldset className="mb-4">
            <legend className="mb-1 text-[13px] font-medium">In the team of</legend>
            <div className="max-h-[180px] overflow-y-auto">
              {studies.map((study) => (
                <label key={study.id} className="flex min-h-7 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-4 accent-verdigris"
                    checked={given.studyIds.includes(study.id)}
                    onChange={(e) => toggle(study.id, e.target.checked)}
                  />
                  {study.title}
                </label>
              ))}
            </div>
          </fieldset>
        )}
        <FormEnd save="Make the link" onLeave={onClose} />
      </form>
    </Dialog>
  );
}
