import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextArea } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';

/** What a tag is, what it is not, and where it belongs; a draft tag is settled by it. */
export function DefineTag({ tag, tags, onClose }: { tag: Schemas['Tag']; tags: readonly Schemas['Tag'][]; onClose: () => void }) {
  const [definition, setDefinition] = useState(tag.definition);
  const [isNot, setIsNot] = useState(tag.isNot);
  const [parentId, setParentId] = useState(tag.parentId);
  const save = useWrite(
    () =>
      ask(
        api.PUT('/api/tags/{id}', {
          params: { path: { id: tag.id } },
          body: {
            text: { name: tag.name, definition, isNot, parentId, colour: tag.colour, settled: true, scale: tag.scale, aliases: tag.aliases },
            version: tag.version,
          },
        }),
      ),
    { own: true },
  );
  const parents = new Set(tags.map((t) => t.parentId));
  const families = tags.filter((t) => t.id !== tag.id && (parents.has(t.id) || (t.parentId === null && t.settled)));
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`${tag.settled ? 'Sharpen' : 'Settle'} “${tag.name}”`}
      intro="So that everybody gives it to the same things."
    >
      <form
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          if (definition.trim() !== '') save.mutate(undefined, { onSuccess: onClose });
        }}
      >
        <Problem of={save.error} />
        <TextArea label="What it is" required autoFocus rows={3} value={definition} onChange={(e) => setDefinition(e.target.value)} />
        <TextArea
          label="What it is not"
          hint="What one might take for it, and which tag that gets instead."
          rows={2}
          value={isNot}
          onChange={(e) => setIsNot(e.target.value)}
        />
        <Choice label="Family" value={parentId ?? ''} onChange={(e) => setParentId(e.target.value === '' ? null : Number(e.target.value))}>
          <option value="">on its own</option>
          {families.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}
            </option>
          ))}
        </Choice>
        <FormEnd save={tag.settled ? 'Save' : 'Settle it'} onLeave={onClose} />
      </form>
    </Dialog>
  );
}
