import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { isBundle } from '@/parts/bundles';
import { ChangedMeanwhile } from '@/parts/ChangedMeanwhile';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextArea, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { hue } from '@/parts/tagLook';
import { count } from '@/parts/words';
import { TrailButton } from '@/trail/Trail';
import { above, outlineOf } from './outline';
import { ScaleFields, scaleOf, typedScale } from './ScaleFields';

type Tag = Schemas['Tag'];

/** How far a change to a tag reaches; studies that one does not see are counted and not named. */
function reached(shared: boolean, reach: Schemas['TagReach'] | undefined): string {
  if (!reach) return '';
  const unseen = reach.studies - reach.seen.length;
  const names = [...reach.seen, ...(unseen > 0 ? [`${count(unseen, 'study', 'studies')} that you do not see`] : [])];
  if (names.length === 0) return 'No study uses it yet.';
  const where = shared ? ` in ${count(reach.studies, 'study', 'studies')}: ${names.join(', ')}` : '';
  return `On ${count(reach.observations, 'observation')}${where}.`;
}

/** Names with commas between. */
const namesIn = (typed: string) =>
  typed
    .split(',')
    .map((name) => name.trim())
    .filter((name) => name !== '');

interface Props {
  /** Null to make one. */
  tag: Tag | null;
  tags: readonly Tag[];
  onClose: () => void;
}

/** What a tag is called and what it means, and where it stands. */
export function TagForm({ tag, tags, onClose }: Props) {
  const [was] = useState(tag);
  const [name, setName] = useState(tag?.name ?? '');
  const [definition, setDefinition] = useState(tag?.definition ?? '');
  const [isNot, setIsNot] = useState(tag?.isNot ?? '');
  const [aliases, setAliases] = useState(tag?.aliases.join(', ') ?? '');
  const [parentId, setParentId] = useState(tag?.parentId ?? null);
  const [colour, setColour] = useState(tag?.colour ?? null);
  const [scale, setScale] = useState(() => typedScale(tag?.scale ?? null));
  const bundle = tag !== null && isBundle(tag);
  const text = {
    name,
    definition,
    isNot,
    parentId,
    colour,
    settled: bundle || definition.trim() !== '',
    scale: scaleOf(scale),
    aliases: namesIn(aliases),
  };
  const save = useWrite(
    () =>
      tag
        ? ask(api.PUT('/api/tags/{id}', { params: { path: { id: tag.id } }, body: { text, version: tag.version } }))
        : ask(api.POST('/api/tags', { body: text })),
    { own: true },
  );
  const reach = useQuery({ ...queries.reachOf(tag?.id ?? 0), enabled: tag !== null }).data;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined, { onSuccess: onClose });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={tag ? tag.name : 'New tag'} intro={tag ? reached(tag.studyId === null, reach) : ''}>
      <form onSubmit={submit}>
        <Problem of={save.error} />
        {tag && was && (
          <ChangedMeanwhile
            texts={[
              { label: 'Name', was: was.name, now: tag.name, mine: name, take: setName },
              { label: 'Definition', was: was.definition, now: tag.definition, mine: definition, take: setDefinition },
              { label: 'Also called', was: was.aliases.join(', '), now: tag.aliases.join(', '), mine: aliases, take: setAliases },
              { label: 'What it is not', was: was.isNot, now: tag.isNot, mine: isNot, take: setIsNot },
            ]}
          />
        )}
        <TextField label="Name" autoFocus value={name} onChange={(e) => setName(e.target.value)} />
        <TextArea
          label="Definition"
          hint={bundle ? 'What it is for.' : 'What it is. A tag with a definition is settled; without one it stays a draft.'}
          rows={3}
          value={definition}
          onChange={(e) => setDefinition(e.target.value)}
        />
        <TextArea
          label="What it is not"
          hint="What one might take for it, and which tag that gets instead."
          rows={2}
          value={isNot}
          onChange={(e) => setIsNot(e.target.value)}
        />
        <TextField
          label="Also called"
          hint="Other names by which it is found, with commas between."
          value={aliases}
          onChange={(e) => setAliases(e.target.value)}
        />
        {!bundle && (
          <>
            <Choice label="Under" value={parentId ?? ''} onChange={(e) => setParentId(e.target.value === '' ? null : Number(e.target.value))}>
              <option value="">nothing: on its own</option>
              {outlineOf(tags, { closed: new Set(), fits: null, byName: false })
                .frame.filter(({ tag: t }) => !isBundle(t) && (!tag || (t.id !== tag.id && above(tags, t).every((up) => up.id !== tag.id))))
                .map(({ tag: t, depth }) => (
                  <option key={t.id} value={t.id}>
                    {`${'\u2003'.repeat(depth)}${t.name}`}
                  </option>
                ))}
            </Choice>
            <ScaleFields scale={scale} onScale={setScale} />
          </>
        )}
        <fieldset className="mb-4">
          <legend className="mb-1 text-[13px] font-medium">
            {bundle ? 'Colour' : parentId === null ? 'Colour, which its family takes on' : 'Colour of its own; without one, that of its family'}
          </legend>
          <div className="flex gap-1.5">
            {Array.from({ length: 12 }, (_, n) => (
              <button
                key={n}
                type="button"
                aria-label={`Colour ${n + 1}`}
                aria-pressed={colour === n}
                onClick={() => setColour(colour === n ? null : n)}
                className={`size-6 rounded-full ${colour === n ? 'outline-2 outline-offset-2 outline-ink' : ''}`}
                style={{ background: hue(n) }}
              />
            ))}
          </div>
        </fieldset>
        <FormEnd save="Save" onLeave={onClose}>
          {tag && <TrailButton of={{ thing: 'tag', id: tag.id, name: tag.name }} />}
        </FormEnd>
      </form>
    </Dialog>
  );
}
