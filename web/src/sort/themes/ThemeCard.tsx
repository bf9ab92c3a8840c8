import { useDroppable } from '@dnd-kit/core';
import { X } from 'lucide-react';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { QuoteWords } from '@/parts/QuoteWords';
import { Button } from '@/parts/Button';
import { ChangedMeanwhile } from '@/parts/ChangedMeanwhile';
import { Level } from '@/parts/Level';
import { FormEnd } from '@/parts/FormEnd';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { TagLabel } from '@/parts/TagLabel';
import { hue, type TagLook } from '@/parts/tagLook';
import { ofPerson } from '@/shared/evidence';
import { useEvidence } from '@/shared/useEvidence';
import { TrailButton } from '@/trail/Trail';
import { clock, count, ofPeople } from '@/parts/words';

interface Props {
  view: Schemas['ThemeView'];
  all: readonly Schemas['ThemeView'][];
  people: readonly Schemas['Participant'][];
  who: (id: number | null) => string;
  look: (id: number) => TagLook;
  dragging: boolean;
  onSub: (under: number) => void;
}

/** A theme on the table: its claim, its breadth, the tags laid in it, a few of its words; a place to drop more. */
export function ThemeCard({ view, all, people, who, look, dragging, onSub }: Props) {
  const { theme, breadth, facts } = view;
  const { setNodeRef, isOver } = useDroppable({ id: String(theme.id) });
  const { open } = useEvidence();
  const [changing, setChanging] = useState(false);
  const takeOut = useWrite((given: { observationIds: number[]; tagIds: number[] }) =>
    ask(api.POST('/api/themes/{id}/take-out', { params: { path: { id: theme.id } }, body: given })),
  );
  const subs = all.filter((t) => t.theme.parentId === theme.id);
  const more = breadth.triple.observations - view.quotes.length;
  return (
    <section
      ref={setNodeRef}
      id={`theme-${theme.id}`}
      tabIndex={-1}
      aria-label={theme.title}
      className={`mb-4 break-inside-avoid rounded-std border bg-case px-4 pt-3.5 pb-3 ${isOver ? 'border-verdigris bg-wash' : dragging ? 'border-dashed border-verdigris/60' : 'border-line'}`}
      style={{ borderTop: `3px solid ${hue(theme.colour ?? 0)}` }}
    >
      {changing ? (
        <ChangeTheme theme={theme} onClose={() => setChanging(false)} />
      ) : (
        <>
          <h2 className="font-read text-[18px] leading-[1.3] font-semibold">
            <button type="button" className="text-left hover:underline" onClick={() => open({ themeId: theme.id })}>
              {theme.title}
            </button>
          </h2>
          <p className={`mt-0.5 text-[13px] ${theme.description ? 'text-ink-soft' : 'text-brass'}`}>
            {theme.description || 'Say in a sentence what it means: until then it is a heap, not a theme.'}
          </p>
        </>
      )}
      <p className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[12.5px] text-ink-soft">
        <PeopleStrip people={people} breadth={breadth} onPick={(p) => open(ofPerson({ themeId: theme.id }, p))} />
        <span>
          {ofPeople(breadth.triple.people, breadth.outOf)}, {count(breadth.triple.observations, 'observation')}
        </span>
        <Level of={facts.level} />
      </p>
      {theme.tagIds.length > 0 && (
        <ul className="mt-2 flex flex-wrap gap-1.5" aria-label="Tags in it">
          {theme.tagIds.map((id) => (
            <li key={id} className="inline-flex items-center">
              <TagLabel look={look(id)}>
                <span className="text-ink-soft">{view.arrivedByTag[id] ?? 0}</span>
                <button
                  type="button"
                  aria-label={`Remove the tag “${look(id).name}”`}
                  className="-my-1 grid size-6 place-items-center text-ink-soft hover:text-oxblood"
                  onClick={() => takeOut.mutate({ observationIds: [], tagIds: [id] })}
                >
                  <X className="size-3" />
                </button>
              </TagLabel>
            </li>
          ))}
        </ul>
      )}
      {subs.map((sub) => (
        <SubTheme key={sub.theme.id} view={sub} people={people} colour={hue(theme.colour ?? 0)} />
      ))}
      {view.quotes.map((q) => (
        <blockquote key={q.observationId} className="group relative mt-2 rounded-std border border-line px-3 py-2">
          <p className="line-clamp-3 font-read text-[14.5px] leading-[1.45]">
            <QuoteWords quote={q} />
          </p>
          <p className="mt-1 text-[11.5px] text-ink-soft">
            {who(q.participantId)}
            {q.atMs !== null && `, ${clock(q.atMs)}`}
          </p>
          {theme.observationIds.includes(q.observationId) && (
            <button
              type="button"
              aria-label="Remove this observation from the theme"
              className="absolute top-1 right-1 grid size-6 place-items-center text-ink-soft opacity-0 group-hover:opacity-100 hover:text-oxblood focus-visible:opacity-100"
              onClick={() => takeOut.mutate({ observationIds: [q.observationId], tagIds: [] })}
            >
              <X className="size-3.5" />
            </button>
          )}
        </blockquote>
      ))}
      <p className="mt-2 flex items-center gap-1 text-[12.5px] text-ink-soft">
        {more > 0 && (
          <button type="button" className="min-h-6 text-sky hover:underline" onClick={() => open({ themeId: theme.id })}>
            {more} more
          </button>
        )}
        <span className="ml-auto" />
        <Button look="quiet" className="!min-h-6 !px-2 !py-0 !text-[12px]" onClick={() => onSub(theme.id)}>
          Sub-theme
        </Button>
        <TrailButton of={{ thing: 'theme', id: theme.id, name: theme.title }} className="!min-h-6 !px-2 !py-0 !text-[12px]" />
        <Button look="quiet" className="!min-h-6 !px-2 !py-0 !text-[12px]" onClick={() => setChanging(true)} aria-label={`Change ${theme.title}`}>
          Change
        </Button>
      </p>
    </section>
  );
}

function SubTheme({ view: sub, people, colour }: { view: Schemas['ThemeView']; people: Props['people']; colour: string }) {
  const { open } = useEvidence();
  const { setNodeRef, isOver } = useDroppable({ id: String(sub.theme.id) });
  return (
    <section
      ref={setNodeRef}
      id={`theme-${sub.theme.id}`}
      tabIndex={-1}
      aria-label={sub.theme.title}
      className={`mt-3 border-l-2 py-0.5 pl-3 ${isOver ? 'bg-wash' : ''}`}
      style={{ borderColor: colour }}
    >
      <h3 className="font-read text-[15px] font-semibold">
        <button type="button" className="text-left hover:underline" onClick={() => open({ themeId: sub.theme.id })}>
          {sub.theme.title}
        </button>
      </h3>
      <p className="mt-2 flex items-center gap-3 text-[12px] text-ink-soft">
        <PeopleStrip people={people} breadth={sub.breadth} onPick={(p) => open(ofPerson({ themeId: sub.theme.id }, p))} />
        {sub.breadth.triple.people} of {sub.breadth.outOf}
      </p>
    </section>
  );
}

function ChangeTheme({ theme: before, onClose }: { theme: Schemas['Theme']; onClose: () => void }) {
  const [was] = useState(before);
  const [title, setTitle] = useState(before.title);
  const [description, setDescription] = useState(before.description);
  const save = useWrite(() =>
    ask(api.PUT('/api/themes/{id}', { params: { path: { id: before.id } }, body: { title, description, parentId: before.parentId, version: before.version } })),
  );
  const remove = useWrite(() => ask(api.DELETE('/api/themes/{id}', { params: { path: { id: before.id } } })));
  const box = 'mb-2 w-full rounded-std border border-line bg-paper px-2.5 py-1.5';
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(undefined, { onSuccess: onClose });
      }}
    >
      <ChangedMeanwhile
        texts={[
          { label: 'Title', was: was.title, now: before.title, mine: title, take: setTitle },
          { label: 'Description', was: was.description, now: before.description, mine: description, take: setDescription },
        ]}
      />
      <textarea
        aria-label="Title"
        autoFocus
        rows={2}
        className={`${box} font-read text-[17px] font-semibold`}
        value={title}
        onChange={(e) => setTitle(e.target.value)}
      />
      <textarea
        aria-label="Description"
        rows={2}
        placeholder="What it means, in a sentence"
        className={box}
        value={description}
        onChange={(e) => setDescription(e.target.value)}
      />
      <FormEnd save="Save" onLeave={onClose} remove={{ label: 'Remove', act: () => remove.mutate() }} />
    </form>
  );
}
