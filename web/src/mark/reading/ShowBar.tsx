import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useMemo, useState } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { isBundle, standsFor } from '@/parts/bundles';
import { fold } from '@/parts/findTags';
import { TagDot } from '@/parts/TagLabel';
import { inWords, toggled } from '@/parts/lists';
import { Box, Word } from '@/parts/WordChoices';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { count } from '@/parts/words';
import { GiveBlind } from '@/shared/GiveBlind';
import { Gist } from './Gist';
import { TextLookChoice } from './TextLookChoice';
import { asking, sentiments } from '@/shared/filter/where';
import { flags, showOf, type Flag, type Show } from './show';

interface Props {
  studyId: number;
  sourceId: number;
  speakers: Schemas['SourceLine']['speakers'];
  /** How many notes there are in this source, in the margin and on marks. */
  notes: number;
  show: Show | undefined;
  onShow: (show: Show | undefined) => void;
  /** The marks of this source, shown or not. */
  observations: readonly Schemas['Observation'][];
  hidden: number;
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
}

/** Tags that are offered at once; the others are found by typing. */
const mostOffered = 100;
const flagWords: Record<Flag, string> = {
  starred: 'starred',
  unsure: 'unsure',
  noted: 'with a note',
  drafts: 'with a draft tag',
  found: 'found, not reviewed',
  reviewed: 'what was looked at',
};

interface Choosing extends Pick<Props, 'observations' | 'tags' | 'look'> {
  chosen: readonly number[] | undefined;
  onChoose: (tagId: number) => void;
}

/** The tags of this source, to choose from; found by typing. */
function TagChoices({ chosen, onChoose, observations, tags, look }: Choosing) {
  const [typed, setTyped] = useState('');
  const here = new Set(observations.flatMap((o) => o.tagIds));
  const all = tags.map((t) => t.tag);
  const isHere = ({ tag }: TagUse) => (isBundle(tag) ? [...standsFor(all, [tag.id])].some((id) => here.has(id)) : here.has(tag.id));
  const offered = tags.filter((t) => (isHere(t) || chosen?.includes(t.tag.id)) && fold(t.tag.name).includes(fold(typed)));
  return (
    <>
      <input
        aria-label="Find a tag to show"
        placeholder="Find a tag"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        className="mb-1.5 w-full rounded-std border border-line bg-paper px-2 py-1 placeholder:text-ink-soft"
      />
      {offered.slice(0, mostOffered).map((t) => (
        <Box key={t.tag.id} label={t.tag.name} on={chosen?.includes(t.tag.id) ?? false} onChange={() => onChoose(t.tag.id)}>
          <TagDot look={look(t.tag.id)} />
        </Box>
      ))}
      {offered.length > mostOffered && <p className="px-1.5 py-1 text-ink-soft">{offered.length - mostOffered} more; type to find one</p>}
      {offered.length === 0 && (
        <p className="px-1.5 py-1 text-ink-soft">{here.size === 0 ? 'Nothing is tagged in this source yet.' : 'No tag of this source fits.'}</p>
      )}
    </>
  );
}

/** What is shown of the marks, as one line of words over the text; each word is changed where it stands, and what is hidden is counted. */
export function ShowBar({ studyId, sourceId, speakers, notes, show, onShow, observations, hidden, tags, look }: Props) {
  const change = (part: { [K in keyof Show]?: Show[K] | undefined }) => onShow(asking({ ...show, ...part } as Show));
  const authors = useMemo(() => [...new Map(observations.map((o) => [o.createdById, o.createdBy])).entries()], [observations]);
  const names = (show?.tagIds ?? []).map((id) => look(id).name);
  const only = flags.filter((flag) => show?.[flag]);
  const [giving, setGiving] = useState(false);
  const kept = useQuery(queries.filters(studyId)).data ?? [];
  return (
    <div role="group" aria-label="What is shown" className="flex flex-wrap items-center gap-x-2 border-b border-line px-5 py-1 text-[12.5px] text-ink-soft">
      <span>Shown:</span>
      <Word label={show?.tagIds ? inWords(names) : 'all tags'} set={show?.tagIds !== undefined}>
        <TagChoices
          chosen={show?.tagIds}
          onChoose={(id) => change({ tagIds: toggled(show?.tagIds, id) })}
          observations={observations}
          tags={tags}
          look={look}
        />
      </Word>
      <span aria-hidden>·</span>
      <Word
        label={show?.authorIds ? inWords(authors.filter(([id]) => show.authorIds!.includes(id)).map(([, name]) => name)) || 'somebody else' : 'by everyone'}
        set={show?.authorIds !== undefined}
      >
        {authors.map(([id, name]) => (
          <Box key={id} label={name} on={show?.authorIds?.includes(id) ?? false} onChange={() => change({ authorIds: toggled(show?.authorIds, id) })} />
        ))}
        {authors.length === 0 && <p className="px-1.5 py-1 text-ink-soft">Nobody has marked anything here yet.</p>}
        <button
          type="button"
          className="mt-1 min-h-7 w-full border-t border-line px-1.5 pt-1 text-left text-sky hover:underline"
          onClick={() => setGiving(true)}
        >
          Have it tagged blind
        </button>
      </Word>
      <span aria-hidden>·</span>
      <Word label={show?.sentiments ? inWords(show.sentiments.flatMap((s) => s ?? [])) : 'any sentiment'} set={show?.sentiments !== undefined}>
        {sentiments.map((s) => (
          <Box key={s} label={s} on={show?.sentiments?.includes(s) ?? false} onChange={() => change({ sentiments: toggled(show?.sentiments, s) })} />
        ))}
      </Word>
      <span aria-hidden>·</span>
      <Word label={only.length > 0 ? `only ${only.map((flag) => flagWords[flag]).join(', ')}` : 'all of them'} set={only.length > 0}>
        {flags.map((flag) => (
          <Box key={flag} label={`Only ${flagWords[flag]}`} on={show?.[flag] ?? false} onChange={() => change({ [flag]: !show?.[flag] })} />
        ))}
      </Word>
      {kept.length > 0 && (
        <>
          <span aria-hidden>·</span>
          <Word label="saved filters" set={false}>
            {kept.map((f) => (
              <button
                key={f.id}
                type="button"
                className="block min-h-7 w-full truncate rounded-[4px] px-1.5 text-left hover:bg-wash"
                onClick={() => f.conditions && onShow(showOf(f.conditions))}
                disabled={f.conditions === null}
              >
                {f.name}
              </button>
            ))}
            <p className="mt-1 border-t border-line px-1.5 pt-1 text-ink-soft">What they ask of tags, authors, sentiment, stars and doubts holds here.</p>
          </Word>
        </>
      )}
      <span className="ml-auto flex items-baseline gap-4">
        {notes > 0 && (
          <Link
            to="/studies/$studyId/mark/notes"
            params={{ studyId }}
            search={{ where: { sourceIds: [sourceId] } }}
            className="min-h-6 underline decoration-dotted underline-offset-4 hover:text-ink"
          >
            {count(notes, 'note')}
          </Link>
        )}
        <Link to="/studies/$studyId/mark/find" params={{ studyId }} className="min-h-6 underline decoration-dotted underline-offset-4 hover:text-ink">
          find in study
        </Link>
        <Gist studyId={studyId} sourceId={sourceId} speakers={speakers} />
        <TextLookChoice />
      </span>
      {show && (
        <>
          <span className="font-medium text-ink">{hidden === 0 ? 'nothing hidden' : `${count(hidden, 'mark')} hidden`}</span>
          <button type="button" className="min-h-6 text-sky hover:underline" onClick={() => onShow(undefined)}>
            Show all
          </button>
        </>
      )}
      {giving && <GiveBlind studyId={studyId} sourceId={sourceId} onClose={() => setGiving(false)} />}
    </div>
  );
}
