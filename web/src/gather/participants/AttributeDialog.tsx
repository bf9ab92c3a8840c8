import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { count } from '@/parts/words';
import { attributeWords } from './attributeWords';

type Kind = Schemas['AttributeKind'];

interface Props {
  studyId: number;
  /** The attribute to change; null for a new one. */
  attribute: Schemas['ParticipantAttribute'] | null;
  /** How many people have a value of it. */
  filled: number;
  onClose: () => void;
}

/** An attribute's name and type. What would not fit a new type is said before it is left out. */
export function AttributeDialog({ studyId, attribute, filled, onClose }: Props) {
  const [name, setName] = useState(attribute?.name ?? '');
  const [kind, setKind] = useState<Kind>(attribute?.kind ?? 'choice');
  const path = { studyId, id: attribute?.id ?? 0 };
  const save = useWrite(
    (leaveOut: boolean) =>
      attribute
        ? ask(api.PUT('/api/studies/{studyId}/attributes/{id}', { params: { path }, body: { name, kind, leaveOut } }))
        : ask(api.POST('/api/studies/{studyId}/attributes', { params: { path: { studyId } }, body: { name, kind } })),
    { own: true },
  );
  const remove = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/attributes/{id}', { params: { path } })));
  const misfits = save.error?.field === 'kind';
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(misfits, { onSuccess: onClose });
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={attribute ? 'Change the attribute' : 'Add an attribute'}
      intro="A fact you want to know of each participant, to compare by later."
    >
      <form onSubmit={submit}>
        <Problem of={save.error} />
        <TextField label="Name" autoFocus value={name} onChange={(e) => setName(e.target.value)} />
        <Choice
          label="It is"
          value={kind}
          onChange={(e) => {
            setKind(e.target.value as Kind);
            save.reset();
          }}
        >
          {Object.entries(attributeWords).map(([k, words]) => (
            <option key={k} value={k}>
              {words}
            </option>
          ))}
        </Choice>
        <FormEnd
          save={misfits ? 'Leave them out' : attribute ? 'Save' : 'Add'}
          onLeave={onClose}
          remove={
            attribute
              ? { label: filled > 0 ? `Remove with its ${count(filled, 'value')}` : 'Remove', act: () => remove.mutate(undefined, { onSuccess: onClose }) }
              : undefined
          }
        />
      </form>
    </Dialog>
  );
}
