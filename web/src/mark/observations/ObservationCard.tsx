import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { CircleDashed, Star, X } from 'lucide-react';
import { Popover, ToggleGroup } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { textAt } from '@/api/waiting/writeTo';
import { queries } from '@/api/queries';
import { AutoText } from '@/shared/AutoText';
import { UsedBy } from '@/shared/UsedBy';
import { Button } from '@/parts/Button';
import { moment } from '@/parts/words';
import { readTyped } from '@/parts/findTags';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { TrailList } from '@/trail/Trail';
import { ScaleInput } from './ScaleInput';
import type { Shown } from './writes';

const sentiments: NonNullable<Schemas['Sentiment']>[] = ['negative', 'neutral', 'positive', 'mixed'];

interface Props {
  studyId: number;
  observation: Shown;
  look: (id: number) => TagLook;
  onClose: () => void;
  /** The scale that a tag carries. */
  scaleOf: (tagId: number) => Schemas['Scale'] | null;
  /** A value is asked for now. */
  asked: boolean;
  onValue: (tagId: number, value: number | null) => void;
  onSentiment: (sentiment: Schemas['Sentiment'] | null) => void;
  onStar: () => void;
  onUnsure: () => void;
  onCopy: () => void;
  onCopyLink: () => void;
  onUntag: (tagId: number) => void;
  onAddTag: () => void;
  onRemove: () => void;
  /** What else can be done with it where it stands. */
  children?: ReactNode;
}

/** Everything about one observation, beside its label: tags, note, sentiment, star, trail. */
export function ObservationCard({
  studyId,
  observation: o,
  look,
  scaleOf,
  asked,
  onClose,
  onValue,
  onSentiment,
  onStar,
  onUnsure,
  onCopy,
  onCopyLink,
  onUntag,
  onAddTag,
  onRemove,
  children,
}: Props) {
  const [trailOpen, setTrailOpen] = useState(false);
  const trail = useQuery({ ...queries.trail({ thing: 'observation', id: o.id }), enabled: trailOpen }).data ?? [];
  const uses = useQuery(queries.usesOf('observation', o.id)).data;
  const anchor = { current: { getBoundingClientRect: () => (document.getElementById(`label-${o.id}`) ?? document.body).getBoundingClientRect() } };
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
          aria-label="Observation"
          className="z-40 max-h-[var(--radix-popover-content-available-height)] w-[320px] animate-rise overflow-y-auto rounded-std border border-line bg-case p-4 text-[13px] shadow-float"
        >
          <div className="flex flex-wrap gap-1.5">
            {o.tagIds.map((id) => (
              <span key={id} className="inline-flex items-center gap-1.5 rounded-[4px] border border-line pl-2">
                <TagDot look={look(id)} />
                <Link to="/studies/$studyId/tags/$tagId" params={{ studyId, tagId: id }} title="Everything about this tag" className="hover:underline">
                  {look(id).name}
                </Link>
                <button
                  type="button"
                  aria-label={`Remove the tag “${look(id).name}”`}
                  className="grid size-6 place-items-center text-ink-soft hover:text-oxblood"
                  onClick={() => onUntag(id)}
                >
                  <X className="size-3" />
                </button>
              </span>
            ))}
            {/* New tags have no id to be taken off by until the server has made them. */}
            {(o.newTags ?? []).map((name) => (
              <span key={name} className="inline-flex min-h-6 items-center gap-1.5 rounded-[4px] border border-line px-2">
                <TagDot look={{ name, colour: 'var(--brass)', draft: true }} />
                {readTyped(name).name}
              </span>
            ))}
            <Button look="quiet" className="!min-h-6 !px-2 !py-0" onClick={onAddTag}>
              Add a tag
            </Button>
          </div>
          {o.tagIds.map((id, i) => {
            const scale = scaleOf(id);
            const first = o.tagIds.findIndex((t) => scaleOf(t) !== null && o.values[t] === undefined) === i;
            return (
              scale && (
                <ScaleInput
                  key={id}
                  name={look(id).name}
                  scale={scale}
                  value={o.values[id]}
                  asked={asked && first}
                  onValue={(value) => onValue(id, value)}
                  onDone={onClose}
                />
              )
            );
          })}
          <div className="mx-2 mt-3 mb-5">
            <AutoText
              label="Note"
              rows={2}
              value={o.note}
              path={textAt('/api/observations/{id}/note', { id: o.id })}
              what="Note on an observation"
              placeholder="A note on this stretch"
              className="!border-line"
            />
          </div>
          <ToggleGroup.Root
            type="single"
            aria-label="Sentiment"
            value={o.sentiment ?? ''}
            onValueChange={(chosen) => onSentiment(sentiments.find((s) => s === chosen) ?? null)}
            className="mt-2 grid grid-cols-4 overflow-hidden rounded-std border border-line"
          >
            {sentiments.map((s) => (
              <ToggleGroup.Item
                key={s}
                value={s}
                className={`min-h-7 border-r border-line text-[12px] last:border-r-0 ${o.sentiment === s ? 'bg-wash font-semibold' : 'text-ink-soft hover:bg-wash'}`}
              >
                {s}
              </ToggleGroup.Item>
            ))}
          </ToggleGroup.Root>
          <div className="mt-3 flex items-center gap-1.5">
            <Button look="quiet" className="!px-2" aria-pressed={o.starred} onClick={() => onStar()}>
              <Star className={`size-4 ${o.starred ? 'fill-brass text-brass' : ''}`} /> {o.starred ? 'Starred' : 'Star'}
            </Button>
            <Button look="quiet" className="!px-2" aria-pressed={o.unsure} onClick={() => onUnsure()}>
              <CircleDashed className={`size-4 ${o.unsure ? 'text-brass' : ''}`} /> {o.unsure ? 'Unsure' : 'Sure'}
            </Button>
            <Button look="quiet" className="!px-2" aria-expanded={trailOpen} onClick={() => setTrailOpen(!trailOpen)}>
              Trail
            </Button>
            <Button look="quiet" className="ml-auto !px-2 hover:!text-oxblood" onClick={onRemove}>
              Remove
            </Button>
          </div>
          {uses && uses.kinds.length > 0 && (
            <div className="mt-2 border-t border-line pt-2 text-[12.5px]">
              {uses.kinds.flatMap((of) => of.named.map((u) => <UsedBy key={`${of.kind} ${u.id}`} kind={of.kind} of={u} />))}
            </div>
          )}
          {children}
          <p className="mt-2 border-t border-line pt-2 text-[12px] text-ink-soft">
            {o.found && <span className="block text-brass">Found by a search, not reviewed</span>}
            {o.late && <span className="block text-brass">Marked or tagged after the source was opened</span>}
            {o.createdAt ? `${o.createdBy}, ${moment(o.createdAt)}` : 'Not sent yet'}
            <span className="flex gap-3">
              <button type="button" className="min-h-6 text-sky hover:underline" onClick={onCopy}>
                Copy the words
              </button>
              <button type="button" className="min-h-6 text-sky hover:underline" onClick={onCopyLink}>
                Copy a link
              </button>
              {o.tagIds[0] !== undefined && o.id > 0 && (
                <Link
                  to="/studies/$studyId/mark/more/$tagId"
                  params={{ studyId, tagId: o.tagIds[0] }}
                  search={{ like: o.id }}
                  className="inline-flex min-h-6 items-center text-sky hover:underline"
                >
                  Find more like it
                </Link>
              )}
            </span>
          </p>
          {trailOpen && (
            <div className="mt-2 max-h-[160px] overflow-y-auto border-t border-line pt-2 text-[12px]">
              <TrailList entries={trail} />
            </div>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
