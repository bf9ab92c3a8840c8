import { textAt } from '@/api/waiting/writeTo';
import { CircleDashed } from 'lucide-react';
import { Popover } from 'radix-ui';
import { AutoText } from '@/shared/AutoText';
import { Button } from '@/parts/Button';
import { moment } from '@/parts/words';
import type { ShownNote } from './noteWrites';

interface Props {
  note: ShownNote;
  onClose: () => void;
  onUnsure: () => void;
  onTag: () => void;
  onRemove: () => void;
}

/** Everything about one margin note, beside it. */
export function NoteCard({ note, onClose, onUnsure, onTag, onRemove }: Props) {
  const anchor = { current: { getBoundingClientRect: () => (document.getElementById(`note-${note.id}`) ?? document.body).getBoundingClientRect() } };
  return (
    <Popover.Root
      open
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
    >
      <Popover.Anchor virtualRef={anchor} />
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          sideOffset={6}
          collisionPadding={12}
          aria-label="Margin note"
          className="z-40 max-h-[var(--radix-popover-content-available-height)] w-[320px] animate-rise overflow-y-auto rounded-std border border-line bg-case p-4 text-[13px] shadow-float"
        >
          <div className="mx-2 mb-5">
            <AutoText
              label="Margin note"
              rows={2}
              value={note.words}
              path={textAt('/api/margin-notes/{id}/words', { id: note.id })}
              what="A margin note"
              placeholder="What you notice here"
              className="!border-line font-read text-[15px] leading-[22px] italic"
            />
          </div>
          <div className="flex items-center gap-1.5">
            <Button onClick={onTag} title="It becomes an observation, with this as its note">
              Tag it
            </Button>
            <Button look="quiet" className="!px-2" aria-pressed={note.unsure} onClick={onUnsure}>
              <CircleDashed className={`size-4 ${note.unsure ? 'text-brass' : ''}`} /> {note.unsure ? 'Unsure' : 'Sure'}
            </Button>
            <Button look="quiet" className="ml-auto !px-2 hover:!text-oxblood" onClick={onRemove}>
              Remove
            </Button>
          </div>
          <p className="mt-2 border-t border-line pt-2 text-[12px] text-ink-soft">
            {note.createdAt ? `${note.createdBy}, ${moment(note.createdAt)}` : 'Not sent yet'}
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
