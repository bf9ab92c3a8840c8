import { useQuery } from '@tanstack/react-query';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Waiting } from '@/parts/Empty';
import { Problem } from '@/parts/Field';
import { count } from '@/parts/words';
import { usesInWords } from '@/shared/things';
import { isBundle } from '@/parts/bundles';

/** A tag is offered no more, or goes altogether: all that hangs on it is said first. */
export function RetireDialog({ tag, onClose }: { tag: Schemas['Tag']; onClose: () => void }) {
  const { data: hangs, error } = useQuery(queries.hangsOn(tag.id));
  const role = useQuery(queries.me()).data?.account?.role;
  const mayDelete = tag.studyId !== null || role === 'steward' || isBundle(tag);
  const retire = useWrite(() => ask(api.PUT('/api/tags/{id}/retired', { params: { path: { id: tag.id } }, body: { retired: true } })), { own: true });
  const remove = useWrite(() => ask(api.DELETE('/api/tags/{id}', { params: { path: { id: tag.id } } })), { own: true });
  const unseen = hangs ? hangs.reach.studies - hangs.reach.seen.length : 0;
  const places = hangs ? [...hangs.reach.seen, ...(unseen > 0 ? [`${count(unseen, 'study', 'studies')} that you do not see`] : [])] : [];
  const lines = hangs
    ? [
        hangs.reach.observations > 0 && `${count(hangs.reach.observations, 'observation')}${places.length > 0 ? ` in ${places.join(', ')}` : ''}`,
        hangs.leftWithout > 0 && `${hangs.leftWithout} of these carry no other tag`,
        ...usesInWords(hangs.uses.kinds.filter((k) => k.kind !== 'observation')),
      ].filter((line) => line !== false)
    : [];
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Retire “${tag.name}”`} intro="Where it is used.">
      <Problem of={retire.error ?? remove.error} />
      {!hangs ? (
        <Waiting problem={error} />
      ) : lines.length === 0 ? (
        <p className="mb-4">It is used nowhere.</p>
      ) : (
        <ul aria-label="Where it is used" className="mb-4 border-y border-line text-[13.5px]">
          {lines.map((line) => (
            <li key={line} className="border-b border-line py-1.5 last:border-b-0">
              {line}
            </li>
          ))}
        </ul>
      )}
      <p className="mb-1 text-[13px] text-ink-soft">Retired, it stays on all of these and is offered no more, in any study that shares it.</p>
      <p className="mb-4 text-[13px] text-ink-soft">
        {isBundle(tag)
          ? 'Deleted, it is gone; its tags stay as they are, on all that they are on.'
          : 'Deleted, it is off everywhere; observations stay, those without another tag too, and the tags under it move up.'}{' '}
        {!mayDelete && 'Every study shares it: the steward can delete it.'}
      </p>
      <div className="flex items-center gap-2">
        <Button look="main" disabled={retire.isPending} onClick={() => retire.mutate(undefined, { onSuccess: onClose })}>
          Retire
        </Button>
        {mayDelete && (
          <Button look="danger" disabled={remove.isPending} onClick={() => remove.mutate(undefined, { onSuccess: onClose })}>
            Delete everywhere
          </Button>
        )}
        <Button look="quiet" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </Dialog>
  );
}
