import { X } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextField } from '@/parts/Field';

type Kind = Schemas['AttributeKind'];
const kindNames: Record<Kind, string> = { choice: 'a choice', number: 'a number', date: 'a date', yesNo: 'yes or no', text: 'text' };

/** One cell: typed into, saved when it is left or Enter is pressed, put back by Escape. */
function Cell({ label, value, save, read = false }: { label: string; value: string; save: (value: string) => void; read?: boolean }) {
  return (
    <input
      key={value}
      aria-label={label}
      defaultValue={value}
      className={`min-h-8 w-full rounded-[3px] bg-transparent px-2 hover:bg-wash focus:bg-case ${read ? 'font-read text-[15px] font-medium' : ''}`}
      onKeyDown={(e) => {
        if (e.key === 'Escape') e.currentTarget.value = value;
        if (e.key === 'Escape' || e.key === 'Enter') e.currentTarget.blur();
      }}
      onBlur={(e) => e.target.value.trim() !== value && save(e.target.value.trim())}
    />
  );
}

/** The people of the study and what is known of each. */
export function ParticipantGrid({ studyId, participants }: { studyId: number; participants: Schemas['Participants'] }) {
  const [adding, setAdding] = useState<'person' | 'attribute' | null>(null);
  const path = { studyId };
  const change = useWrite((p: Schemas['Participant']) =>
    ask(
      api.PUT('/api/studies/{studyId}/participants/{id}', {
        params: { path: { ...path, id: p.id } },
        body: { code: p.code, pseudonym: p.pseudonym, realName: p.realName },
      }),
    ),
  );
  const set = useWrite(
    (given: { id: number; attributeId: number; value: string }) =>
      ask(
        api.PUT('/api/studies/{studyId}/participants/{id}/attributes/{attributeId}', {
          params: { path: { ...path, id: given.id, attributeId: given.attributeId } },
          body: { value: given.value },
        }),
      ),
    { quiet: true },
  );
  const remove = useWrite((id: number) => ask(api.DELETE('/api/studies/{studyId}/participants/{id}', { params: { path: { ...path, id } } })));
  const removeAttribute = useWrite((id: number) => ask(api.DELETE('/api/studies/{studyId}/attributes/{id}', { params: { path: { ...path, id } } })));
  return (
    <section aria-label="Participants" className="mt-9">
      <div className="mb-2 flex items-center gap-2">
        <h2 className="font-read text-xl font-semibold">Participants</h2>
        <span className="text-[12.5px] text-ink-soft">shown by code and pseudonym; a real name never leaves the team</span>
        <div className="ml-auto flex gap-2">
          <Button onClick={() => setAdding('attribute')}>Add an attribute</Button>
          <Button onClick={() => setAdding('person')}>Add a participant</Button>
        </div>
      </div>
      {participants.people.length === 0 ? (
        <p className="rounded-std border border-dashed border-line px-5 py-6 text-center text-ink-soft">
          Nobody yet. A person has a code and a pseudonym, such as P03 Sorrel, and the facts you want to compare by.
        </p>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full text-[13.5px]">
            <thead>
              <tr className="border-b border-line text-left text-[12.5px] text-ink-soft">
                <th className="w-[70px] px-2 py-2 font-medium">Code</th>
                <th className="px-2 py-2 font-medium">Pseudonym</th>
                {participants.attributes.map((a) => (
                  <th key={a.id} className="group px-2 py-2 font-medium whitespace-nowrap" title={kindNames[a.kind]}>
                    {a.name}
                    <button
                      type="button"
                      aria-label={`Remove the attribute ${a.name}`}
                      className="-my-1 size-6 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
                      onClick={() => removeAttribute.mutate(a.id)}
                    >
                      <X className="inline size-3" />
                    </button>
                  </th>
                ))}
                <th className="px-2 py-2 font-medium">Real name</th>
                <th>
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {participants.people.map((p) => (
                <tr key={p.id} className="group border-b border-line">
                  <td>
                    <Cell label={`Code of ${p.pseudonym}`} value={p.code} save={(code) => change.mutate({ ...p, code })} />
                  </td>
                  <td>
                    <Cell read label={`Pseudonym of ${p.code}`} value={p.pseudonym} save={(pseudonym) => change.mutate({ ...p, pseudonym })} />
                  </td>
                  {participants.attributes.map((a) => (
                    <td key={a.id}>
                      <Cell
                        label={`${a.name} of ${p.pseudonym}`}
                        value={p.values[a.id] ?? ''}
                        save={(value) => set.mutate({ id: p.id, attributeId: a.id, value })}
                      />
                    </td>
                  ))}
                  <td>
                    <Cell
                      label={`Real name of ${p.pseudonym}`}
                      value={p.realName ?? ''}
                      save={(realName) => change.mutate({ ...p, realName: realName || null })}
                    />
                  </td>
                  <td className="text-right">
                    <button
                      type="button"
                      aria-label={`Remove ${p.code} ${p.pseudonym}`}
                      className="size-6 text-ink-soft opacity-0 group-hover:opacity-100 hover:text-oxblood focus-visible:opacity-100"
                      onClick={() => remove.mutate(p.id)}
                    >
                      <X className="inline size-3.5" />
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {adding === 'person' && <AddParticipant studyId={studyId} next={participants.people.length + 1} onClose={() => setAdding(null)} />}
      {adding === 'attribute' && <AddAttribute studyId={studyId} onClose={() => setAdding(null)} />}
    </section>
  );
}

function AddParticipant({ studyId, next, onClose }: { studyId: number; next: number; onClose: () => void }) {
  const [given, setGiven] = useState({ code: `P${String(next).padStart(2, '0')}`, pseudonym: '', realName: '' });
  const add = useWrite(
    () => ask(api.POST('/api/studies/{studyId}/participants', { params: { path: { studyId } }, body: { ...given, realName: given.realName || null } })),
    { own: true },
  );
  const field = (key: keyof typeof given) => ({
    value: given[key],
    onChange: (e: { target: { value: string } }) => setGiven({ ...given, [key]: e.target.value }),
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

function AddAttribute({ studyId, onClose }: { studyId: number; onClose: () => void }) {
  const [name, setName] = useState('');
  const [kind, setKind] = useState<Kind>('choice');
  const add = useWrite(() => ask(api.POST('/api/studies/{studyId}/attributes', { params: { path: { studyId } }, body: { name, kind } })), { own: true });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate(undefined, { onSuccess: onClose });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Add an attribute" intro="A fact you want to know of each participant, to compare by later.">
      <form onSubmit={submit}>
        <Problem of={add.error} />
        <TextField label="Name" autoFocus value={name} onChange={(e) => setName(e.target.value)} />
        <Choice label="It is" value={kind} onChange={(e) => setKind(e.target.value as Kind)}>
          {Object.entries(kindNames).map(([k, words]) => (
            <option key={k} value={k}>
              {words}
            </option>
          ))}
        </Choice>
        <div className="flex justify-end">
          <Button look="main" type="submit">
            Add
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
