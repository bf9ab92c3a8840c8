import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { FormEnd } from '@/parts/FormEnd';
import { Choice, Problem, TextArea, TextField } from '@/parts/Field';
import { kinds, kindWords } from '@/parts/words';

interface Props {
  studyId: number;
  people: readonly Schemas['Participant'][];
  onClose: () => void;
  onAdded: (sourceId: number) => void;
}

/** Pasting one text as one source. */
export function PasteSource({ studyId, people, onClose, onAdded }: Props) {
  const [given, setGiven] = useState({ title: '', kind: 'interview' as Schemas['SourceKind'], heldOn: '', text: '', participantId: '' });
  const paste = useWrite(
    () =>
      ask(
        api.POST('/api/studies/{studyId}/sources/paste', {
          params: { path: { studyId } },
          body: {
            title: given.title,
            kind: given.kind,
            heldOn: given.heldOn || null,
            text: given.text,
            participantIds: given.participantId ? [Number(given.participantId)] : [],
          },
        }),
      ),
    { own: true },
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    paste.mutate(undefined, {
      onSuccess: (added) => {
        onClose();
        onAdded(added.step.id!);
      },
    });
  };
  const field = (key: 'title' | 'heldOn' | 'text' | 'participantId') => ({
    value: given[key],
    onChange: (e: { target: { value: string } }) => setGiven({ ...given, [key]: e.target.value }),
  });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Paste a text"
      intro="A transcript, notes, a diary page. Speakers and times at the start of lines are recognised."
      wide
    >
      <form onSubmit={submit}>
        <Problem of={paste.error} />
        <TextField label="Title" hint="Such as the person’s code and pseudonym." autoFocus {...field('title')} />
        <div className="grid grid-cols-3 gap-3">
          <Choice label="Kind" value={given.kind} onChange={(e) => setGiven({ ...given, kind: e.target.value as Schemas['SourceKind'] })}>
            {kinds.map((kind) => (
              <option key={kind} value={kind}>
                {kindWords[kind].one}
              </option>
            ))}
          </Choice>
          <TextField label="Held on" type="date" {...field('heldOn')} />
          <Choice label="Participant" {...field('participantId')}>
            <option value="">from the speakers</option>
            {people.map((p) => (
              <option key={p.id} value={p.id}>
                {p.code} {p.pseudonym}
              </option>
            ))}
          </Choice>
        </div>
        <TextArea label="Text" rows={12} {...field('text')} />
        <FormEnd save="Add the source" onLeave={onClose} busy={paste.isPending} />
      </form>
    </Dialog>
  );
}
