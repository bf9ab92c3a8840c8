import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { count } from '@/parts/words';

interface Props {
  studyId: number;
  /** Null for a new one. */
  folder: Schemas['Folder'] | null;
  /** How many sources are in it. */
  inside: number;
  onClose: () => void;
}

export function FolderDialog({ studyId, folder, inside, onClose }: Props) {
  const [name, setName] = useState(folder?.name ?? '');
  const save = useWrite(
    () =>
      folder
        ? ask(api.PUT('/api/studies/{studyId}/folders/{id}', { params: { path: { studyId, id: folder.id } }, body: { name } }))
        : ask(api.POST('/api/studies/{studyId}/folders', { params: { path: { studyId } }, body: { name } })),
    { own: true },
  );
  const remove = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/folders/{id}', { params: { path: { studyId, id: folder!.id } } })));
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={folder ? 'Change the folder' : 'New folder'}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(undefined, { onSuccess: onClose });
        }}
      >
        <Problem of={save.error} />
        <TextField label="Name" autoFocus value={name} onChange={(e) => setName(e.target.value)} />
        <FormEnd
          save={folder ? 'Rename' : 'Make the folder'}
          onLeave={onClose}
          remove={
            folder
              ? { label: inside === 0 ? 'Remove' : `Remove; its ${count(inside, 'source')} stay`, act: () => remove.mutate(undefined, { onSuccess: onClose }) }
              : undefined
          }
        />
      </form>
    </Dialog>
  );
}
