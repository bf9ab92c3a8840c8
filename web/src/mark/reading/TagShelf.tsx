import { useDraggable, useDroppable } from '@dnd-kit/core';
import { ChevronDown, ChevronRight, PanelRightClose, Plus, Sigma } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { inTreeOrder, isBundle } from '@/parts/bundles';
import { fold } from '@/parts/findTags';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { DefineTag } from '@/shared/DefineTag';
import { placeBy } from '@/shared/tagPlaces';
import { usePlaceTags } from '@/shared/usePlaceTags';
import { ofPerson } from '@/shared/evidence';
import { useEvidence } from '@/shared/useEvidence';
import { useKept } from '@/shared/useKept';
import { useTagUses } from '@/shared/useTagUses';
import { useWhere } from '@/shared/filter/useWhere';
import { count } from '@/parts/words';
import { pressed } from '@/parts/actions/actions';
import { useRowActions } from '@/parts/actions/registry';
import { shelf } from './actions';
import type { Dragged, Over } from './dragging';
import { Pens } from './Pens';
import { usePens } from './usePens';

interface Props {
  studyId: number;
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  people: readonly Schemas['Participant'][];
  onHide: () => void;
}

/** Rows of tags without a family, at most. */
const mostLoose = 120;
const areIds = (value: unknown): value is number[] => Array.isArray(value) && value.every((id) => typeof id === 'number');
const isOn = (value: unknown): value is boolean => typeof value === 'boolean';
const tool = 'grid size-7 shrink-0 place-items-center rounded-std text-ink-soft hover:bg-wash hover:text-ink aria-pressed:bg-wash aria-pressed:text-ink';

/** A tag to be dragged, and to be dropped on: onto its name, or before it. */
function Row({ use, children, ...rest }: { use: TagUse; children: ReactNode } & React.HTMLAttributes<HTMLDivElement>) {
  const { id, name } = use.tag;
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `tag ${id}`, data: { drags: 'tag', tagId: id, name } satisfies Dragged });
  const { setNodeRef: setOnto, isOver: isOnto } = useDroppable({ id: `onto ${id}`, data: { tag: id } satisfies Over });
  const { setNodeRef: setBefore, isOver: isBefore, active } = useDroppable({ id: `before ${id}`, data: { tag: id, before: true } satisfies Over });
  return (
    <div
      ref={setNodeRef}
      className={`relative ${isDragging ? 'opacity-40' : ''}`}
      onPointerDown={listeners?.['onPointerDown'] as React.PointerEventHandler | undefined}
      {...rest}
    >
      <span
        ref={setBefore}
        aria-hidden
        className={`absolute inset-x-0 -top-[3px] h-[7px] ${isBefore && active?.data.current?.['drags'] === 'tag' ? 'border-t-2 border-verdigris' : ''}`}
      />
      <div
        ref={setOnto}
        className={`flex min-h-7 flex-wrap items-center gap-x-2 rounded-[4px] ${isOnto && !isBefore ? 'bg-wash outline-1 outline-verdigris' : ''}`}
      >
        {children}
      </div>
    </div>
  );
}

/** A new tag with nothing selected. */
function NewTag({ studyId, onMade, onClose }: { studyId: number; onMade: (tagId: number) => void; onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const make = useWrite((name: string) => ask(api.POST('/api/studies/{studyId}/tags', { params: { path: { studyId } }, body: { name } })), { own: true });
  return (
    <div className="mb-3">
      <input
        autoFocus
        aria-label="New tag"
        placeholder="Name of the new tag"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') onClose();
          if (e.key !== 'Enter' || typed.trim() === '') return;
          e.preventDefault();
          make.mutate(typed, {
            onSuccess: (step) => {
              setTyped('');
              if (step.id !== null) onMade(step.id);
            },
          });
        }}
        className="w-full rounded-std border border-verdigris bg-case px-2.5 py-1 placeholder:text-ink-soft"
      />
      {make.error ? (
        <p role="alert" className="mt-1 text-[12px] text-oxblood">
          {make.error.message}
        </p>
      ) : (
        <p className="mt-1 text-[11.5px] text-ink-soft">“family / name” puts it under a tag, “name = what it is” defines it.</p>
      )}
    </div>
  );
}

/** Every tag of the study with who speaks under it: families first, then loose tags and drafts. */
export const TagShelf = memo(function TagShelf({ studyId, tags: ofAll, look, people, onHide }: Props) {
  const { where, setWhere } = useWhere();
  const uses = useTagUses(studyId, where).tags ?? ofAll;
  const tags = useMemo(() => uses.filter((t) => !isBundle(t.tag)), [uses]);
  const bundles = uses.filter((t) => isBundle(t.tag) && !t.tag.retired);
  const unseen = tags.some((t) => t.breadth.notReviewed > 0);
  const [typed, setTyped] = useState('');
  const { set } = usePens(studyId);
  useRowActions(shelf);
  const { open } = useEvidence();
  const [foldedIds, setFolded] = useKept<number[]>(`folded-${studyId}`, noIds, areIds);
  const [figures, setFigures] = useKept('shelf-figures', false, isOn);
  const [sharedOpen, setSharedOpen] = useKept(`shared-tags-${studyId}`, false, isOn);
  const [making, setMaking] = useState(false);
  const place = usePlaceTags();
  // A tag that was moved by keys keeps them.
  const refocused = useRef<number | null>(null);
  useEffect(() => {
    if (refocused.current === null) return;
    document.querySelector<HTMLElement>(`[data-tag="${refocused.current}"] button:not([aria-expanded])`)?.focus();
    refocused.current = null;
  }, [tags]);
  const [made, setMade] = useState<number | null>(null);
  const [settling, setSettling] = useState<number | null>(null);
  const { setNodeRef: setGround } = useDroppable({ id: 'shelf', data: { shelf: true } satisfies Over });
  // The tag under the mouse takes a number as the one that has the focus does.
  const [pointed, setPointed] = useState<number | null>(null);
  useEffect(() => {
    if (pointed === null) return undefined;
    const listen = (event: KeyboardEvent) => {
      // Whoever goes on by keys has not meant the tag that the mouse was left on.
      if (!/^[1-9]$/.test(event.key)) return setPointed(null);
      const used = pressed(shelf, { move: () => false, pen: (number) => set({ number, tagId: pointed }) }, event);
      if (used) event.stopPropagation();
    };
    document.addEventListener('keydown', listen, { capture: true });
    return () => document.removeEventListener('keydown', listen, { capture: true });
  }, [pointed, set]);
  // A new tag is shown where it stands.
  const there = made !== null && tags.some((t) => t.tag.id === made);
  useEffect(() => {
    if (there) document.querySelector(`[data-tag="${made}"]`)?.scrollIntoView({ block: 'center' });
  }, [there, made]);
  const wanted = fold(typed.trim());
  const under = useMemo(() => {
    const map = new Map<number | null, TagUse[]>();
    for (const use of tags) map.set(use.tag.parentId, [...(map.get(use.tag.parentId) ?? []), use]);
    return (id: number | null) => map.get(id) ?? [];
  }, [tags]);
  const fits = (use: TagUse) =>
    (!use.tag.retired || wanted !== '') && fold(`${use.tag.name}\n${use.tag.definition}\n${use.tag.isNot}\n${use.tag.aliases.join('\n')}`).includes(wanted);
  const holds = (use: TagUse): boolean => fits(use) || under(use.tag.id).some(holds);
  const tops = under(null);
  const families = tops.filter((t) => under(t.tag.id).length > 0 && holds(t));
  const loose = tops.filter((t) => under(t.tag.id).length === 0 && fits(t));
  // What is looked for is shown wherever it belongs, and so is all that the study has made or used, whatever the filter counts.
  const used = useMemo(() => {
    const own = ofAll.filter((t) => t.tag.studyId !== null || t.own.observations > 0);
    const parentOf = new Map(ofAll.map((t) => [t.tag.id, t.tag.parentId]));
    const found = new Set<number>();
    for (const { tag } of own) for (let id: number | null = tag.id; id !== null && !found.has(id); id = parentOf.get(id) ?? null) found.add(id);
    return found;
  }, [ofAll]);
  const isHere = (use: TagUse) => wanted !== '' || used.has(use.tag.id) || use.tag.id === made;
  const elsewhere = wanted === '' ? tags.filter((t) => !t.tag.retired && !used.has(t.tag.id) && t.tag.id !== made).length : 0;
  const bundlesHere = bundles.filter((b) => fits(b) && (wanted !== '' || b.tag.studyId !== null || b.tag.members?.some((id) => used.has(id))));
  const settled = loose.filter((t) => t.tag.settled && isHere(t));
  const drafts = loose.filter((t) => !t.tag.settled && isHere(t));
  // What is looked for is not hidden in a fold.
  const isFolded = (id: number) => wanted === '' && foldedIds.includes(id);
  const toggle = (id: number) => setFolded(foldedIds.includes(id) ? foldedIds.filter((x) => x !== id) : [...foldedIds, id]);

  const keysOf = (use: TagUse) => ({
    'data-tag': use.tag.id,
    onKeyDown: (e: React.KeyboardEvent) => {
      const { id } = use.tag;
      const move = (key: string) => {
        const to = placeBy(
          tags.map((t) => t.tag),
          id,
          key,
        );
        if (!to) return false;
        refocused.current = id;
        place.mutate({ ids: [id], to });
        return true;
      };
      pressed(shelf, { move, pen: (number) => set({ number, tagId: id }) }, e);
    },
    onMouseEnter: () => setPointed(use.tag.id),
    onMouseLeave: () => setPointed(null),
  });
  const said = ({ breadth: { triple } }: TagUse) =>
    `${count(triple.observations, 'observation')}, ${count(triple.sources, 'source')}, ${count(triple.people, 'person', 'people')}`;
  const row = (use: TagUse): ReactNode => {
    const id = use.tag.id;
    const children = under(id).filter(holds);
    return (
      <li key={id} title={use.tag.definition || undefined}>
        <Row use={use} {...keysOf(use)}>
          <TagDot look={look(id)} />
          <button type="button" className="min-h-6 min-w-0 flex-1 text-left leading-[1.25] hover:underline" onClick={() => open({ tagId: id })}>
            {use.tag.name}
          </button>
          {!use.tag.settled && use.tag.parentId === null && (
            <button type="button" className="min-h-6 text-[12px] text-brass hover:underline" onClick={() => setSettling(id)}>
              settle
            </button>
          )}
          {use.breadth.triple.observations > 0 && <PeopleStrip people={people} breadth={use.breadth} onPick={(p) => open(ofPerson({ tagId: id }, p))} />}
          {figures && <span className="w-full pb-1 pl-4 text-[11.5px] text-ink-soft">{said(use)}</span>}
        </Row>
        {children.length > 0 && <ul className="ml-4">{children.map(row)}</ul>}
      </li>
    );
  };
  const familyOf = (family: TagUse) => {
    const id = family.tag.id;
    const shut = isFolded(id);
    return (
      <section key={id} className={shut ? 'mb-1.5' : 'mb-4'} aria-label={family.tag.name}>
        <Row use={family} {...keysOf(family)}>
          <h2 className="flex w-full items-center font-semibold">
            <button
              type="button"
              aria-expanded={!shut}
              aria-label={shut ? `Unfold “${family.tag.name}”` : `Fold “${family.tag.name}”`}
              className="-ml-2 grid size-6 shrink-0 place-items-center text-ink-soft hover:text-ink"
              onClick={() => toggle(id)}
            >
              {shut ? <ChevronRight aria-hidden className="size-3.5" /> : <ChevronDown aria-hidden className="size-3.5" />}
            </button>
            <button type="button" className="min-h-6 min-w-0 flex-1 text-left hover:underline" onClick={() => open({ tagId: id })}>
              {family.tag.name}
            </button>
            <span className="text-[12px] font-medium text-ink-soft" title={`${said(family)} with all tags under it`}>
              {family.breadth.triple.observations}
            </span>
          </h2>
          {figures && <span className="w-full pb-1 pl-4 text-[11.5px] text-ink-soft">{said(family)}</span>}
        </Row>
        {!shut && (
          <ul>
            {under(id)
              .filter((t) => fits(family) || holds(t))
              .map(row)}
          </ul>
        )}
      </section>
    );
  };
  const settlingTag = tags.find((t) => t.tag.id === settling)?.tag;
  return (
    <aside ref={setGround} aria-label="Tag shelf" className="overflow-y-auto border-l border-line px-4 py-3 text-[13px]">
      <div className="mb-3 flex items-center gap-0.5">
        <input
          aria-label="Find a tag"
          placeholder="Find a tag"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="mr-1 w-full min-w-0 rounded-std border border-line bg-case px-2.5 py-1 placeholder:text-ink-soft"
        />
        <button type="button" className={tool} aria-label="New tag" title="New tag" aria-pressed={making} onClick={() => setMaking(!making)}>
          <Plus aria-hidden className="size-4" />
        </button>
        <button
          type="button"
          className={tool}
          aria-label="Figures of each tag"
          title="Figures of each tag"
          aria-pressed={figures}
          onClick={() => setFigures(!figures)}
        >
          <Sigma aria-hidden className="size-4" />
        </button>
        <button type="button" className={tool} aria-label="Hide the tags" title="Hide the tags" onClick={onHide}>
          <PanelRightClose aria-hidden className="size-4" />
        </button>
      </div>
      {making && <NewTag studyId={studyId} onMade={setMade} onClose={() => setMaking(false)} />}
      <Pens studyId={studyId} look={look} />
      {(unseen || where) && (
        <p className="mb-3 text-[12px] text-ink-soft">
          {where ? 'Counts under the conditions of this page.' : <span className="text-brass">Some that are counted were found, not reviewed.</span>}{' '}
          <button type="button" className="min-h-6 text-sky hover:underline" onClick={() => setWhere(where ? {} : { reviewed: true })}>
            {where ? 'Count all' : 'Leave them out'}
          </button>
        </p>
      )}
      {families.filter(isHere).map(familyOf)}
      {settled.length > 0 && <ul className="mb-4">{settled.slice(0, mostLoose).map(row)}</ul>}
      {drafts.length > 0 && (
        <section aria-label="Draft tags" className="border-t border-dashed border-brass pt-2">
          <h2 className="font-semibold text-brass">Draft tags, {drafts.length}</h2>
          <ul>{drafts.slice(0, mostLoose).map(row)}</ul>
        </section>
      )}
      {bundlesHere.length > 0 && (
        <section aria-label="Bundles" className="mt-3 border-t border-line pt-2">
          <h2 className="font-semibold">Bundles</h2>
          <ul>
            {bundlesHere.map((use) => (
              <li key={use.tag.id} title={use.tag.definition || undefined} className="py-1">
                <p className="flex items-center gap-2">
                  <TagDot look={look(use.tag.id)} />
                  <button type="button" className="min-h-6 min-w-0 flex-1 text-left hover:underline" onClick={() => open({ tagId: use.tag.id })}>
                    {use.tag.name}
                  </button>
                  {use.breadth.triple.observations > 0 && (
                    <PeopleStrip people={people} breadth={use.breadth} onPick={(p) => open(ofPerson({ tagId: use.tag.id }, p))} />
                  )}
                </p>
                {figures && <p className="pl-5 text-[11.5px] text-ink-soft">{said(use)}</p>}
                <p className="pl-5 text-[12px] text-ink-soft">
                  {inTreeOrder(
                    tags.map((t) => t.tag),
                    use.tag.members ?? [],
                  )
                    .map((t) => t.name)
                    .join(', ')}
                </p>
              </li>
            ))}
          </ul>
        </section>
      )}
      {elsewhere > 0 && (
        <section aria-label="Shared tags" className="mt-3">
          <button
            type="button"
            aria-expanded={sharedOpen}
            className="flex min-h-6 w-full items-center gap-1 text-left font-semibold text-ink-soft hover:text-ink"
            onClick={() => setSharedOpen(!sharedOpen)}
          >
            {sharedOpen ? <ChevronDown aria-hidden className="size-3.5" /> : <ChevronRight aria-hidden className="size-3.5" />}
            Shared tags not used here, {elsewhere}
          </button>
          {sharedOpen && (
            <>
              {families.filter((t) => !isHere(t)).map(familyOf)}
              <ul>
                {loose
                  .filter((t) => !isHere(t))
                  .slice(0, mostLoose)
                  .map(row)}
              </ul>
            </>
          )}
        </section>
      )}
      {Math.max(settled.length, drafts.length) > mostLoose && <p className="mt-2 text-ink-soft">More tags than fit here: type to find one.</p>}
      {wanted !== '' && families.length + loose.length === 0 && <p className="text-ink-soft">No tag is called or defined like that.</p>}
      {settlingTag && <DefineTag tag={settlingTag} tags={tags.map((t) => t.tag)} onClose={() => setSettling(null)} />}
    </aside>
  );
});

const noIds: number[] = [];
