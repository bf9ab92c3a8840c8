import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextArea } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import type { TagUse } from '@/parts/tagLook';

/** From draft to settled: what it is, what it is not, and where it belongs. */
export function SettleTag({ tag, tags, onClose }: { tag: Schemas['Tag']; tags: readonly TagUse[]; onClose: () => void }) {
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
  const parents = new Set(tags.map((t) => t.tag.parentId));
  const families = tags.filter((t) => t.tag.id !== tag.id && (parents.has(t.tag.id) || (t.tag.parentId === null && t.tag.settled)));
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Settle “${tag.name}”`} intro="So that everybody gives it to the same things.">
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
          <option value="">stands alone</option>
          {families.map((t) => (
            <option key={t.tag.id} value={t.tag.id}>
              {t.tag.name}
            </option>
          ))}
        </Choice>
        <FormEnd save="Settle it" onLeave={onClose} />
      </form>
    </Dialog>
  );
}
