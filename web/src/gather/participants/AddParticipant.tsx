import { useState, type FormEvent } from 'react';
import { api, ask } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextField } from '@/parts/Field';

export function AddParticipant({ studyId, next, onClose }: { studyId: number; next: number; onClose: () => void }) {
  // As long as nobody has changed the code, the next free one is meant: somebody may be adding another person.
  const [typed, setGiven] = useState<{ code: string | null; pseudonym: string; realName: string }>({ code: null, pseudonym: '', realName: '' });
  const given = { ...typed, code: typed.code ?? `P${String(next).padStart(2, '0')}` };
  const body = { ...typed, code: typed.code ?? '', realName: typed.realName || null };
  const add = useWrite(() => ask(api.POST('/api/studies/{studyId}/participants', { params: { path: { studyId } }, body })), { own: true });
  const field = (key: keyof typeof given) => ({
    value: given[key],
    onChange: (e: { target: { value: string } }) => setGiven({ ...typed, [key]: e.target.value }),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate(undefined, { onSuccess: onClose });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Add a participant">
      <form onSubmit={submit}>
        <Problem of={add.error} />
        <TextField label="Code" {...field('code')} />
        <TextField label="Pseudonym" hint="The made-up name this person is called by, here and in everything published." autoFocus {...field('pseudonym')} />
        <TextField label="Real name, if you need it" hint="Only the team sees it; in published pages it is replaced by the pseudonym." {...field('realName')} />
        <div className="flex justify-end">
          <Button look="main" type="submit">
            Add
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
