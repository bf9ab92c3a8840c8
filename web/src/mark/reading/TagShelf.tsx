import { useEffect, useState } from 'react';
import type { Schemas } from '@/api/client';
import { fold } from '@/parts/findTags';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { useEvidence } from '@/shared/useEvidence';
import { count } from '@/parts/words';
import { typing } from '@/parts/typing';
import { Pens } from './Pens';
import { usePens } from './usePens';

type Use = TagUse;

interface Props {
  studyId: number;
  tags: readonly Use[];
  look: (id: number) => TagLook;
  people: readonly Schemas['Participant'][];
}

/** Rows of tags without a family, at most. */
const mostLoose = 120;

/** Every tag of the study with who speaks under it: families first, then loose tags and drafts. */
export function TagShelf({ studyId, tags, look, people }: Props) {
  const [typed, setTyped] = useState('');
  const { set } = usePens(studyId);
  const { open } = useEvidence();
  // The tag under the mouse takes a number as the one that has the focus does.
  const [pointed, setPointed] = useState<number | null>(null);
  useEffect(() => {
    if (pointed === null) return undefined;
    const listen = (event: KeyboardEvent) => {
      // Whoever goes on by keys has not meant the tag that the mouse was left on.
      if (!/^[1-9]$/.test(event.key)) return setPointed(null);
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      event.preventDefault();
      event.stopPropagation();
      set({ number: Number(event.key), tagId: pointed });
    };
    document.addEventListener('keydown', listen, { capture: true });
    return () => document.removeEventListener('keydown', listen, { capture: true });
  }, [pointed, set]);
  const fits = (use: Use) => fold(use.tag.name).includes(fold(typed));
  const parents = new Set(tags.map((t) => t.tag.parentId));
  const families = tags.filter((t) => parents.has(t.tag.id));
  const loose = tags.filter((t) => t.tag.parentId === null && !parents.has(t.tag.id));
  const settled = loose.filter((t) => t.tag.settled && fits(t));
  const drafts = loose.filter((t) => !t.tag.settled && fits(t));

  const row = (use: Use) => (
    <li
      key={use.tag.id}
      className="flex min-h-7 items-center gap-2"
      title={use.tag.definition || undefined}
      data-tag={use.tag.id}
      onKeyDown={(e) => {
        if (!/^[1-9]$/.test(e.key) || e.ctrlKey || e.metaKey || e.altKey) return;
        e.preventDefault();
        set({ number: Number(e.key), tagId: use.tag.id });
      }}
      onMouseEnter={() => setPointed(use.tag.id)}
      onMouseLeave={() => setPointed(null)}
    >
      <TagDot look={look(use.tag.id)} />
      <button type="button" className="min-h-6 min-w-0 flex-1 text-left leading-[1.25] hover:underline" onClick={() => open({ tagId: use.tag.id })}>
        {use.tag.name}
      </button>
      {use.breadth.triple.observations > 0 && (
        <PeopleStrip people={people} breadth={use.breadth} onPick={(p) => open(p === null ? { tagId: use.tag.id } : { tagId: use.tag.id, participantId: p })} />
      )}
    </li>
  );
  return (
    <aside aria-label="Tag shelf" className="overflow-y-auto border-l border-line px-4 py-3 text-[13px]">
      <input
        aria-label="Find a tag"
        placeholder="Find a tag"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        className="mb-3 w-full rounded-std border border-line bg-case px-2.5 py-1 placeholder:text-ink-soft"
      />
      <Pens studyId={studyId} look={look} />
      {families.map((family) => {
        const children = tags.filter((t) => t.tag.parentId === family.tag.id && fits(t));
        if (children.length === 0 && !fits(family)) return null;
        return (
          <section key={family.tag.id} className="mb-4" aria-label={family.tag.name}>
            <h2 className="flex items-baseline justify-between font-semibold">
              <button type="button" className="min-h-6 text-left hover:underline" onClick={() => open({ tagId: family.tag.id })}>
                {family.tag.name}
              </button>
              <span
                className="text-[12px] font-medium text-ink-soft"
                title={`${count(family.breadth.triple.observations, 'observation')} with all tags under it`}
              >
                {family.breadth.triple.observations}
              </span>
            </h2>
            <ul>{children.map(row)}</ul>
          </section>
        );
      })}
      {settled.length > 0 && <ul className="mb-4">{settled.slice(0, mostLoose).map(row)}</ul>}
      {drafts.length > 0 && (
        <section aria-label="Draft tags" className="border-t border-dashed border-brass pt-2">
          <h2 className="font-semibold text-brass">Draft tags, {drafts.length}</h2>
          <ul>{drafts.slice(0, mostLoose).map(row)}</ul>
        </section>
      )}
      {Math.max(settled.length, drafts.length) > mostLoose && <p className="mt-2 text-ink-soft">More tags than fit here: type to find one.</p>}
    </aside>
  );
}
