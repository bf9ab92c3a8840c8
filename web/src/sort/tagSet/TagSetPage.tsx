import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button, Key } from '@/parts/Button';
import { ChangedMeanwhile } from '@/parts/ChangedMeanwhile';
import { Dialog } from '@/parts/Dialog';
import { FormEnd } from '@/parts/FormEnd';
import { Empty, Waiting } from '@/parts/Empty';
import { Choice, Problem, TextArea, TextField } from '@/parts/Field';
import { fold } from '@/parts/findTags';
import { PickByTitle } from '@/parts/PickByTitle';
import { usePageKeys } from '@/parts/usePageKeys';
import { TagDot } from '@/parts/TagLabel';
import { hue } from '@/parts/tagLook';
import { TrailButton } from '@/trail/Trail';
import { useTagLook } from '@/parts/useTagLook';
import { count } from '@/parts/words';
import { MergeDialog } from './MergeDialog';
import { ScaleFields, scaleOf, typedScale } from './ScaleFields';

type Tag = Schemas['CountedTag'];

/** The shared vocabulary of the workspace: families of tags with what they mean; and the drafts that studies have made. */
export function TagSetPage() {
  const { data: tags, error } = useQuery(queries.tagSet());
  const { tag: opened } = useSearch({ from: '/team/tags' });
  const navigate = useNavigate();
  const setChanging = (what: Tag | 'new' | null) => void navigate({ to: '/tags', search: what === null ? {} : { tag: what === 'new' ? what : what.id } });
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [merging, setMerging] = useState<'pick' | readonly number[] | null>(null);
  const look = useTagLook(tags);
  usePageKeys({ m: chosen.length > 0 && (() => setMerging(chosen.length > 1 ? chosen : 'pick')), Escape: chosen.length > 0 && (() => setChosen([])) });
  if (!tags) return <Waiting problem={error} />;
  const changing = tags.find((t) => t.id === opened);
  const fits = (tag: Tag) => fold(`${tag.name} ${tag.definition} ${tag.isNot} ${tag.aliases.join(' ')}`).includes(fold(typed));
  const parents = new Set(tags.map((t) => t.parentId));
  const tops = tags.filter((t) => t.parentId === null);
  const families = tops.filter((t) => parents.has(t.id) || t.settled);
  const drafts = tops.filter((t) => !parents.has(t.id) && !t.settled && fits(t));
  const row = (tag: Tag) => (
    <tr key={tag.id} className="border-t border-line align-baseline">
      <td className="w-7 py-1.5">
        <input
          type="checkbox"
          aria-label={`Choose ${tag.name}`}
          className="size-4 accent-verdigris"
          checked={chosen.includes(tag.id)}
          onChange={() => setChosen(chosen.includes(tag.id) ? chosen.filter((id) => id !== tag.id) : [...chosen, tag.id])}
        />
      </td>
      <td className="w-[220px] py-1.5 pr-4">
        <button type="button" className="inline-flex min-h-6 items-center gap-2 text-left font-medium hover:underline" onClick={() => setChanging(tag)}>
          <TagDot look={look(tag.id)} /> {tag.name}
        </button>
      </td>
      <td className="py-1.5 pr-4 text-ink-soft">
        {tag.definition || <span className="text-brass">no definition yet</span>}
        {tag.isNot && <span className="italic"> Not: {tag.isNot}</span>}
        {tag.aliases.length > 0 && <span> Also: {tag.aliases.join(', ')}.</span>}
      </td>
      <td className="w-[120px] py-1.5 text-right text-[12.5px] text-ink-soft">{count(tag.observations, 'observation')}</td>
    </tr>
  );
  return (
    <main className="h-full overflow-y-auto border-t border-line">
      <div className="mx-auto max-w-[940px] px-6 py-8">
        <div className="mb-5 flex items-center gap-3">
          <h1 className="font-read text-3xl font-semibold">Tag set</h1>
          <input
            aria-label="Find a tag"
            placeholder="Find a tag"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            className="ml-auto w-56 rounded-std border border-line bg-case px-3 py-1.5"
          />
          <Link to="/tags/twins" className="text-sky hover:underline">
            Near-twins
          </Link>
          <Button look="main" onClick={() => setChanging('new')}>
            New tag
          </Button>
        </div>
        {tags.length === 0 && (
          <Empty title="No tags yet" sample="“learnt on the quay: news of a change reached the person after they had come to the quay”">
            Tags are made here, or while reading. A tag with a definition is used the same way by everyone.
          </Empty>
        )}
        {families.map((family) => {
          const children = tags.filter((t) => t.parentId === family.id && fits(t));
          if (children.length === 0 && !fits(family)) return null;
          return (
            <section key={family.id} aria-label={family.name} className="mb-6">
              <h2 className="flex items-baseline gap-2 pb-1 font-read text-[18px] font-semibold">
                <span aria-hidden className="h-3.5 w-1 rounded-full" style={{ background: look(family.id).colour }} />
                <button type="button" className="hover:underline" onClick={() => setChanging(family)}>
                  {family.name}
                </button>
                <span className="font-use text-[13px] font-normal text-ink-soft">{family.definition}</span>
              </h2>
              <table className="w-full">
                <tbody>{children.map(row)}</tbody>
              </table>
            </section>
          );
        })}
        {drafts.length > 0 && (
          <section aria-label="Draft tags" className="mb-6 rounded-std border border-dashed border-brass p-4">
            <h2 className="mb-1 font-read text-[18px] font-semibold text-brass">Draft tags</h2>
            <p className="mb-2 text-ink-soft">Made while reading, in one study. Give each a definition and a family to settle it.</p>
            <table className="w-full">
              <tbody>{drafts.map(row)}</tbody>
            </table>
          </section>
        )}
      </div>
      {chosen.length > 0 && (
        <div role="group" aria-label="Chosen tags" className="sticky bottom-0 flex items-center gap-3 border-t border-line bg-case px-6 py-2 text-[13px]">
          <span className="font-medium">{count(chosen.length, 'tag')} chosen</span>
          <Button look="main" onClick={() => setMerging(chosen.length > 1 ? chosen : 'pick')}>
            Merge <Key>m</Key>
          </Button>
          <Button look="quiet" className="ml-auto" onClick={() => setChosen([])}>
            Choose none <Key>Esc</Key>
          </Button>
        </div>
      )}
      {merging === 'pick' && (
        <PickByTitle
          title={`Merge “${tags.find((t) => t.id === chosen[0])?.name}” into`}
          label="Tag"
          items={tags.filter((t) => !chosen.includes(t.id)).map((t) => ({ id: String(t.id), title: t.name, pick: () => setMerging([t.id, ...chosen]) }))}
          none="No tag is called like that."
          onClose={() => setMerging((now) => (now === 'pick' ? null : now))}
        />
      )}
      {merging !== null && merging !== 'pick' && (
        <MergeDialog
          tags={merging.flatMap((id) => tags.find((t) => t.id === id) ?? [])}
          look={look}
          onClose={() => {
            setMerging(null);
            setChosen([]);
          }}
        />
      )}
      {(opened === 'new' || changing) && <TagForm key={opened} tag={changing ?? null} tops={families} onClose={() => setChanging(null)} />}
    </main>
  );
}

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

function TagForm({ tag, tops, onClose }: { tag: Tag | null; tops: readonly Tag[]; onClose: () => void }) {
  const [was] = useState(tag);
  const [name, setName] = useState(tag?.name ?? '');
  const [definition, setDefinition] = useState(tag?.definition ?? '');
  const [isNot, setIsNot] = useState(tag?.isNot ?? '');
  const [aliases, setAliases] = useState(tag?.aliases.join(', ') ?? '');
  const [parentId, setParentId] = useState(tag?.parentId ?? null);
  const [colour, setColour] = useState(tag?.colour ?? null);
  const [scale, setScale] = useState(() => typedScale(tag?.scale ?? null));
  const text = {
    name,
    definition,
    isNot,
    parentId,
    colour: parentId === null ? colour : null,
    settled: definition.trim() !== '',
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
  const role = useQuery(queries.me()).data?.account?.role;
  const mayRemove = tag?.studyId !== null || role === 'steward';
  const remove = useWrite((id: number) => ask(api.DELETE('/api/tags/{id}', { params: { path: { id } } })));
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
          hint="What it is. A tag with a definition is settled; without one it stays a draft."
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
        <Choice label="Family" value={parentId ?? ''} onChange={(e) => setParentId(e.target.value === '' ? null : Number(e.target.value))}>
          <option value="">stands alone</option>
          {tops
            .filter((t) => t.id !== tag?.id)
            .map((t) => (
              <option key={t.id} value={t.id}>
                {t.name}
              </option>
            ))}
        </Choice>
        <ScaleFields scale={scale} onScale={setScale} />
        {parentId === null && (
          <fieldset className="mb-4">
            <legend className="mb-1 text-[13px] font-medium">Colour, which its family takes on</legend>
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
        )}
        <FormEnd
          save="Save"
          onLeave={onClose}
          remove={
            tag && mayRemove
              ? {
                  label: reach && reach.observations > 0 ? `Remove from ${count(reach.observations, 'observation')}` : 'Remove',
                  act: () => remove.mutate(tag.id, { onSuccess: onClose }),
                }
              : undefined
          }
        >
          {tag && !mayRemove && <span className="text-[13px] text-ink-soft">The steward can remove it.</span>}
          {tag && <TrailButton of={{ thing: 'tag', id: tag.id, name: tag.name }} />}
        </FormEnd>
      </form>
    </Dialog>
  );
}
