import { useState, type FormEvent } from 'react';
import { api, ask } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextArea, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { isEmpty, observationsOf, said, type Chosen } from './chosen';

interface Props {
  studyId: number;
  contents: Chosen;
  under: number | null;
  onClose: () => void;
  onMade: () => void;
}

export function ThemeForm({ studyId, contents, under, onClose, onMade }: Props) {
  const [title, setTitle] = useState('');
  const [description, setDescription] = useState('');
  const make = useWrite(
    () =>
      ask(
        api.POST('/api/studies/{studyId}/themes', {
          params: { path: { studyId } },
          body: { title, description, parentId: under, observationIds: observationsOf(contents), tagIds: contents.tags },
        }),
      ),
    { own: true },
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate(undefined, { onSuccess: onMade });
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={under === null ? 'New theme' : 'New sub-theme'}
      intro={isEmpty(contents) ? '' : `It begins with ${said(contents)}.`}
    >
      <form onSubmit={submit}>
        <Problem of={make.error} />
        <TextField
          label="Title"
          hint="A claim one can act on, rather than a noun: “A named ticket breaks how islanders share”."
          autoFocus
          value={title}
          onChange={(e) => setTitle(e.target.value)}
        />
        <TextArea
          label="Description"
          hint="What it means, in a sentence or two."
          rows={3}
          value={description}
          onChange={(e) => setDescription(e.target.value)}
        />
        <FormEnd save="Make the theme" onLeave={onClose} busy={make.isPending} />
      </form>
    </Dialog>
  );
}
