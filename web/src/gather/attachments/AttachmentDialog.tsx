import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextArea, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { TrailButton } from '@/trail/Trail';
import { count } from '@/parts/words';
import { tagHint, tagsNamed } from '@/gather/sources/pasted';

interface Props {
  studyId: number;
  attachment: Schemas['Attachment'];
  onClose: () => void;
}

/** An attachment's title, what it is good for, and its tags. */
export function AttachmentDialog({ studyId, attachment, onClose }: Props) {
  const tags = useQuery(queries.tags(studyId)).data ?? [];
  const [title, setTitle] = useState(attachment.title);
  const [note, setNote] = useState(attachment.note);
  const [typed, setTyped] = useState<string | null>(null);
  const named = typed ?? tags.filter((t) => attachment.tagIds.includes(t.id)).map((t) => t.name).join(', '); // prettier-ignore
  const { known, fresh } = tagsNamed(named, tags);
  const path = { studyId, id: attachment.id };
  const save = useWrite(
    () =>
      ask(
        api.PUT('/api/studies/{studyId}/attachments/{id}', {
          params: { path },
          body: { title, note, version: attachment.version, tagIds: known, newTags: fresh },
        }),
      ),
    { own: true },
  );
  const remove = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/attachments/{id}', { params: { path } })));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined, { onSuccess: onClose });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={attachment.title} intro={attachment.fileName}>
      <form onSubmit={submit}>
        <Problem of={save.error} />
        <TextField label="Title" value={title} onChange={(e) => setTitle(e.target.value)} />
        <TextArea label="What it is good for" rows={3} value={note} onChange={(e) => setNote(e.target.value)} />
        <TextField
          label="Tags"
          hint={named.trim() === '' ? 'Names with commas between them.' : tagHint(known.length, fresh)}
          value={named}
          onChange={(e) => setTyped(e.target.value)}
        />
        <FormEnd
          save="Save"
          leave="Close"
          onLeave={onClose}
          busy={save.isPending}
          remove={{
            label: attachment.insightIds.length > 0 ? `Remove, also from ${count(attachment.insightIds.length, 'insight')}` : 'Remove',
            act: () => remove.mutate(undefined, { onSuccess: onClose }),
          }}
        >
          <TrailButton of={{ thing: 'attachment', id: attachment.id, name: attachment.title }} />
        </FormEnd>
      </form>
    </Dialog>
  );
}
