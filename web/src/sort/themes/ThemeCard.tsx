import { useDraggable, useDroppable } from '@dnd-kit/core';
import { useEffect, useRef } from 'react';
import { Link } from '@tanstack/react-router';
import { ChevronDown, ChevronRight, X } from 'lucide-react';
import type { Schemas } from '@/api/client';
import { Button } from '@/parts/Button';
import { Level } from '@/parts/Level';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { TagLabel } from '@/parts/TagLabel';
import { hue, type TagLook } from '@/parts/tagLook';
import { ofPerson } from '@/shared/evidence';
import { useEvidence } from '@/shared/useEvidence';
import { count, ofPeople } from '@/parts/words';
import { AutoText } from '@/shared/AutoText';
import { textAt } from '@/api/waiting/writeTo';
import { claimOf } from '@/shared/claim';
import { New } from './New';
import { CardPieces } from './CardPieces';
import type { Chosen, PieceIn } from './chosen';
import { thinWords } from './thin';
import type { usePieces } from './usePieces';

interface Props {
  studyId: number;
  view: Schemas['ThemeView'];
  all: readonly Schemas['ThemeView'][];
  people: readonly Schemas['Participant'][];
  who: (id: number | null) => string;
  look: (id: number) => TagLook;
  /** What is dragged: pieces and tags, or a theme. */
  dragging: 'pieces' | 'theme' | null;
  folded: ReadonlySet<number>;
  onFold: (id: number) => void;
  onSub: (under: number) => void;
  onFocus: (id: number | null) => void;
  pieces: ReturnType<typeof usePieces>;
  chosen: Chosen;
  onChoose: (piece: PieceIn) => void;
  /** The theme that was made a moment ago, and whose claim is being written on its card. */
  claiming: number | null;
  onClaimed: () => void;
  /** Cards that show all of their pieces. */
  opened: ReadonlySet<number>;
  onOpen: (id: number) => void;
  /** The colour of what it stands under; null for one at the top. */
  under?: string;
}

/** How many words of where it is thin a card says. */
const mostThin = 3;

/** A theme on the table: its claim, its breadth, where it is thin, the tags laid in it, a few of its words; a place to drop more. */
export function ThemeCard(props: Props) {
  const {
    studyId,
    view,
    all,
    people,
    who,
    look,
    dragging,
    folded,
    onFold,
    onSub,
    onFocus,
    pieces,
    chosen,
    onChoose,
    opened,
    onOpen,
    claiming,
    onClaimed,
    under,
  } = props;
  const { theme, breadth, facts, thinSpots } = view;
  const { setNodeRef: dropRef, isOver } = useDroppable({ id: String(theme.id) });
  const { setNodeRef: dragRef, listeners, isDragging } = useDraggable({ id: `theme${theme.id}`, data: { theme: theme.id } });
  const { open } = useEvidence();
  const subs = all.filter((t) => t.theme.parentId === theme.id);
  const held = facts.supporting + facts.contradicting + facts.context;
  const more = view.beside - view.quotes.length;
  const shut = folded.has(theme.id);
  const colour = hue(theme.colour ?? 0);
  const top = under === undefined;
  return (
    <section
      ref={dropRef}
      id={`theme-${theme.id}`}
      data-theme
      tabIndex={0}
      aria-label={claimOf(theme)}
      onFocus={(e) => e.target === e.currentTarget && onFocus(theme.id)}
      onBlur={(e) => e.target === e.currentTarget && onFocus(null)}
      className={
        (top ? 'mb-4 break-inside-avoid rounded-std border px-4 pt-3 pb-3 ' : 'mt-3 border-l-[3px] py-0.5 pl-3 ') +
        (isOver ? 'border-verdigris bg-wash ' : dragging && top ? 'border-dashed border-verdigris/60 bg-case ' : top ? 'border-line bg-case ' : '') +
        (isDragging ? 'opacity-50' : '')
      }
      style={top ? { borderTop: `3px solid ${colour}` } : { borderLeftColor: colour }}
    >
      {dragging === 'theme' && <Before id={theme.id} />}
      <div ref={dragRef} {...listeners} className="flex cursor-grab items-start gap-1">
        <h2 className={`min-w-0 flex-1 font-read leading-[1.3] font-semibold ${top ? 'text-[18px]' : 'text-[15.5px]'}`}>
          {claiming === theme.id ? (
            <ClaimField theme={theme} onClaimed={onClaimed} />
          ) : (
            <Link
              to="/studies/$studyId/sort/themes/$themeId"
              params={{ studyId, themeId: theme.id }}
              draggable={false}
              className={`hover:underline ${theme.title ? '' : 'text-brass'}`}
            >
              {claimOf(theme)}
            </Link>
          )}
        </h2>
        <button
          type="button"
          aria-expanded={!shut}
          aria-label={`${shut ? 'Unfold' : 'Fold'} ${claimOf(theme)}`}
          className="-mr-1 grid size-6 shrink-0 place-items-center text-ink-soft hover:text-ink"
          onClick={() => onFold(theme.id)}
        >
          {shut ? <ChevronRight className="size-4" /> : <ChevronDown className="size-4" />}
        </button>
      </div>
      {!shut && top && (
        <p className={`mt-0.5 text-[13px] ${theme.description ? 'text-ink-soft' : 'text-brass'}`}>
          {theme.description || 'Say in a sentence what it means: until then it is a heap, not a theme.'}
        </p>
      )}
      <p className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1 text-[12.5px] text-ink-soft">
        <PeopleStrip people={people} breadth={breadth} onPick={(p) => open(ofPerson({ themeId: theme.id }, p))} />
        <button type="button" className="min-h-6 hover:underline" onClick={() => open({ themeId: theme.id })}>
          {ofPeople(breadth.triple.people, breadth.outOf)}
          {facts.peopleAgainst > 0 && `, ${facts.peopleAgainst} against`}, {count(held, 'observation')}
        </button>
        <Level of={facts.level} />
        {view.newSince > 0 && <New many={view.newSince} />}
        {shut && subs.length > 0 && <span>{count(subs.length, 'sub-theme')}</span>}
      </p>
      {!shut && (
        <>
          {top && thinSpots.length > 0 && held > 0 && (
            <p className="mt-1 text-[12px] text-brass" title="Where it is thin; its page says more">
              Thin:{' '}
              {thinSpots
                .slice(0, mostThin)
                .map((s) => thinWords[s])
                .join(', ')}
              {thinSpots.length > mostThin && ` and ${thinSpots.length - mostThin} more`}
            </p>
          )}
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
                      onClick={() => pieces.takeOut.mutate({ themeId: theme.id, observationIds: [], tagIds: [id] })}
                    >
                      <X className="size-3" />
                    </button>
                  </TagLabel>
                </li>
              ))}
            </ul>
          )}
          {subs.map((sub) => (
            <ThemeCard key={sub.theme.id} {...props} view={sub} under={colour} />
          ))}
          <CardPieces {...{ studyId, view, who, pieces, chosen, onChoose }} all={opened.has(theme.id)} />
          <p className="mt-1.5 flex items-center gap-1 text-[12.5px] text-ink-soft">
            {(more > 0 || opened.has(theme.id)) && (
              <button type="button" className="inline-flex min-h-6 items-center text-sky hover:underline" onClick={() => onOpen(theme.id)}>
                {opened.has(theme.id) ? 'Show fewer' : `${more} more`}
              </button>
            )}
            <Button look="quiet" className="ml-auto !min-h-6 !px-2 !py-0 !text-[12px]" onClick={() => onSub(theme.id)}>
              Sub-theme
            </Button>
          </p>
        </>
      )}
    </section>
  );
}

/** The claim of a new theme, written where it lies; Enter and Escape lead back to the table. */
function ClaimField({ theme, onClaimed }: { theme: Schemas['ThemeHead']; onClaimed: () => void }) {
  const field = useRef<HTMLDivElement>(null);
  useEffect(() => field.current?.querySelector('textarea')?.focus(), []);
  return (
    <div ref={field} className="mb-5" onPointerDown={(e) => e.stopPropagation()} onBlur={onClaimed}>
      <AutoText
        label="Claim"
        value={theme.title}
        placeholder="What these claim together, in a sentence"
        className="font-read text-[18px] leading-[1.3] font-semibold"
        path={textAt('/api/themes/{id}/title', { id: theme.id })}
        what="Claim of a theme"
        onLeave={() => document.getElementById(`theme-${theme.id}`)?.focus()}
      />
    </div>
  );
}

/** A theme that is dropped here stands before this one. */
function Before({ id }: { id: number }) {
  const { setNodeRef, isOver } = useDroppable({ id: `before${id}` });
  return <div ref={setNodeRef} className={`-mt-2 mb-1 h-3 rounded-std ${isOver ? 'bg-verdigris' : 'bg-line/60'}`} />;
}
