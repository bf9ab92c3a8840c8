import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { inKinds } from '@/parts/bundles';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextArea } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { count } from '@/parts/words';
import { usesInWords } from '@/shared/things';

interface Props {
  /** The tags that become one; the first is the one that stays, until another is chosen. */
  tags: readonly Schemas['Tag'][];
  look: (id: number) => TagLook;
  onClose: () => void;
}

/** Tags become one: what happens is shown first; which one stays, and what it means then, is chosen. */
export function MergeDialog({ tags, look, onClose }: Props) {
  const [into, setInto] = useState(tags[0]!.id);
  const stays = tags.find((t) => t.id === into) ?? tags[0]!;
  const going = tags.filter((t) => t.id !== into);
  const [definition, setDefinition] = useState<string | null>(null);
  const [isNot, setIsNot] = useState<string | null>(null);
  const [convert, setConvert] = useState(false);
  const shown = useQuery(
    queries.mergeShown(
      into,
      going.map((t) => t.id),
    ),
  );
  const merge = useWrite(
    () =>
      ask(
        api.POST('/api/tags/{id}/merge', {
          params: { path: { id: into } },
          body: { tagIds: going.map((t) => t.id), definition: definition ?? stays.definition, isNot: isNot ?? stays.isNot, convertValues: convert },
        }),
      ),
    { own: true },
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    // The tags that go take this dialog along before the write is answered; it must not come back with them. A refusal is shown here.
    merge.mutateAsync(undefined).then(onClose, () => undefined);
  };
  const others = going.filter((t) => t.definition !== '' && t.definition !== (definition ?? stays.definition));
  const of = shown.data;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Merge ${inKinds(tags)} into one`}
      intro="Nothing happens before you say so; it is undone as one step."
    >
      <form onSubmit={submit}>
        <Problem of={merge.error ?? shown.error} />
        <fieldset className="mb-3">
          <legend className="mb-1 text-[12.5px] text-ink-soft">Which one stays; the others become names by which it is found</legend>
          {tags.map((t) => {
            const brings = of?.merged.find((m) => m.tag.id === t.id);
            return (
              <label key={t.id} className="flex min-h-8 items-center gap-2">
                <input type="radio" name="into" checked={t.id === into} onChange={() => setInto(t.id)} className="size-4 accent-verdigris" />
                <TagDot look={look(t.id)} />
                <span className={t.id === into ? 'font-semibold' : ''}>{t.name}</span>
                <span className="ml-auto text-[12.5px] text-ink-soft">
                  {t.id === into
                    ? of && count(of.before, 'observation')
                    : brings &&
                      `${count(brings.observations, 'observation')}${brings.alsoInto > 0 ? `, ${brings.alsoInto} of them with “${stays.name}” too` : ''}`}
                </span>
              </label>
            );
          })}
        </fieldset>
        {of && (
          <ul className="mb-3 rounded-std bg-brass-wash px-3 py-2 text-[13px]">
            <li>
              “{stays.name}” is then on <strong>{count(of.after, 'observation')}</strong>
              {of.studies.length > 0 && ` in ${of.studies.join(', ')}`}
              {of.otherStudies > 0 && ` and in ${count(of.otherStudies, 'study', 'studies')} that you do not see`}.
            </li>
            {usesInWords(of.uses.kinds.filter((k) => k.kind !== 'observation')).map((line, i) => (
              <li key={line} className="mt-1">
                {i === 0 && (
                  <span className="block text-ink-soft">
                    It also takes the place of {others.length === 1 ? 'the one' : 'those'} that go{others.length === 1 && 'es'} in
                  </span>
                )}
                {line}
              </li>
            ))}
            {of.merged
              .filter((m) => m.values > 0)
              .map((m) => (
                <li key={m.tag.id}>
                  {count(m.values, 'value')} of “{m.tag.name}”:{' '}
                  {convert && m.converted.length > 0
                    ? `rescaled to the scale that stays, ${m.converted.map((v) => `${v.value} becomes ${v.as}`).join(', ')}.`
                    : m.valuesLost === 0
                      ? 'all go along as they are.'
                      : `${m.valuesLost} are not on the scale that stays, and go.`}
                </li>
              ))}
          </ul>
        )}
        {of?.merged.some((m) => m.converted.length > 0) && (
          <label className="mb-3 flex min-h-8 items-center gap-2 text-[13px]">
            <input type="checkbox" checked={convert} onChange={(e) => setConvert(e.target.checked)} className="size-4 accent-verdigris" />
            Rescale values of another scale to the one that stays, as far between its ends, at the nearest step
          </label>
        )}
        <TextArea label="What it is" rows={3} value={definition ?? stays.definition} onChange={(e) => setDefinition(e.target.value)} />
        {others.map((t) => (
          <p key={t.id} className="-mt-2 mb-2 text-[12.5px] text-ink-soft">
            “{t.name}”: {t.definition}{' '}
            <button type="button" className="min-h-6 text-sky hover:underline" onClick={() => setDefinition(t.definition)}>
              Take this one
            </button>
          </p>
        ))}
        <TextArea label="What it is not" rows={2} value={isNot ?? stays.isNot} onChange={(e) => setIsNot(e.target.value)} />
        <FormEnd save="Merge" onLeave={onClose} busy={merge.isPending || !of} />
      </form>
    </Dialog>
  );
}
