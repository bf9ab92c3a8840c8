import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useEffect, useMemo, useRef, useState } from 'react';
import { queries } from '@/api/queries';
import { Empty, Waiting } from '@/parts/Empty';
import { whoIs } from '@/parts/QuoteItem';
import { TagLabel } from '@/parts/TagLabel';
import { useSettled } from '@/parts/useSettled';
import { useTagLook } from '@/parts/useTagLook';
import { Box, Word } from '@/parts/WordChoices';
import { FilterLine } from '@/shared/filter/FilterLine';
import { useWhere } from '@/shared/filter/useWhere';
import { useTagUses } from '@/shared/useTagUses';
import { asked, lookingFor, unitWords, units, type Looking } from './looking';
import { ObservationResults } from './ObservationResults';
import { PassageResults } from './PassageResults';

const at = '/team/studies/$studyId/mark/find';

/** Passages and observations of a study, found by words while typing and under conditions; with what is chosen something is done in one step. */
export function FindPage() {
  const { studyId } = useParams({ from: at });
  const looking = useSearch({ from: at });
  const { where, setWhere } = useWhere();
  const navigate = useNavigate();
  const [typed, setTyped] = useState(looking.typed ?? '');
  const settled = useSettled(typed, 120);
  const sources = useQuery(queries.sources(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const { tags } = useTagUses(studyId);
  const look = useTagLook(tags?.map((t) => t.tag));
  const of = useMemo(() => asked(looking, settled, where), [looking, settled, where]);
  const results = useRef<HTMLDivElement>(null);
  // The address is what was typed, so that it can be handed on.
  useEffect(() => {
    void navigate({
      to: '/studies/$studyId/mark/find',
      params: { studyId },
      search: (now) => ({ ...(now.where && { where: now.where }), ...lookingFor({ ...now, typed: settled }) }),
      replace: true,
    });
  }, [settled, studyId, navigate]);
  const change = (part: { [K in keyof Looking]?: Looking[K] | undefined }) =>
    void navigate({
      to: '/studies/$studyId/mark/find',
      params: { studyId },
      search: (now) => ({ ...(now.where && { where: now.where }), ...lookingFor({ ...now, ...part }) }),
      replace: true,
    });
  if (!sources || !people || !tags) return <Waiting problem={null} />;
  const who = whoIs(people);
  const title = (id: number) => sources.find((s) => s.id === id)?.title ?? '';
  const newFor = looking.newFor === undefined ? undefined : look(looking.newFor);
  const onPerson = (id: number | null) => setWhere({ ...where, participantIds: id === null ? [] : [id] });
  const unit = looking.unit ?? 'sentence';
  return (
    <div className="mx-auto flex h-full max-w-[980px] flex-col px-5 pt-5">
      <div className="flex items-baseline gap-4">
        <h1 className="font-read text-[22px] font-semibold">Find</h1>
        <input
          autoFocus
          aria-label="Words to find"
          placeholder="cancel | “called off” -kiosk"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'ArrowDown') {
              e.preventDefault();
              results.current?.querySelector<HTMLElement>('[data-row]')?.focus();
            }
          }}
          className="min-w-0 flex-1 rounded-std border border-line bg-case px-3 py-1.5 font-read text-[17px] placeholder:text-ink-soft/80"
        />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-3 border-b border-line pb-2 text-[12.5px] text-ink-soft">
        <FilterLine
          studyId={studyId}
          where={where}
          onWhere={setWhere}
          {...(!looking.marked && {
            alsoWho: {
              label: 'What the team says too',
              word: 'the team too',
              on: looking.team === true,
              onChange: () => change({ team: looking.team ? undefined : true }),
            },
          })}
        >
          <Word label={looking.marked ? 'observations' : unitWords[unit]} set={looking.marked === true || looking.unit !== undefined}>
            {units.map((u) => (
              <Box
                key={u}
                label={unitWords[u]}
                on={!looking.marked && unit === u}
                onChange={() => change({ unit: u === 'sentence' ? undefined : u, marked: undefined })}
              />
            ))}
            <Box label="observations" on={looking.marked === true} onChange={() => change({ marked: looking.marked ? undefined : true })} />
          </Word>
        </FilterLine>
        <span>
          grouped by{' '}
          <Word label={looking.groupBy ?? 'source'} set={looking.groupBy !== undefined}>
            <Box label="source" on={!looking.groupBy} onChange={() => change({ groupBy: undefined })} />
            <Box label="person" on={looking.groupBy === 'person'} onChange={() => change({ groupBy: looking.groupBy ? undefined : 'person' })} />
          </Word>
        </span>
        {newFor && (
          <span className="inline-flex items-center gap-1.5">
            · new for <TagLabel look={newFor} />
            <button type="button" className="min-h-6 text-sky hover:underline" onClick={() => change({ newFor: undefined })}>
              all of them
            </button>
          </span>
        )}
        <Link to="/studies/$studyId/mark/found" params={{ studyId }} className="ml-auto min-h-6 text-sky hover:underline">
          What was found and not reviewed
        </Link>
      </div>
      <div ref={results} className="contents">
        {looking.marked ? (
          <ObservationResults {...{ studyId, where, tags, look, who, people, onPerson }} typed={settled} groupBy={looking.groupBy} />
        ) : settled.trim() === '' ? (
          <Empty title="Words find passages" sample="“cancel | called” finds cancelled, cancellation and called">
            Words find their other forms too; “in quotes” they stand as typed. a | b is either, a ~5 b near each other, -a without. Observations are found
            without words too, by who, where and what is marked.
          </Empty>
        ) : (
          <PassageResults {...{ studyId, of, tags, look, who, title, people, onPerson }} newFor={looking.newFor} />
        )}
      </div>
    </div>
  );
}
