import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent as KeyOnRow } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button, Key } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { LongList } from '@/parts/LongList';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { whoIs } from '@/parts/QuoteItem';
import { TagDot, TagLabel } from '@/parts/TagLabel';
import { TagLine } from '@/parts/TagLine';
import { toggled } from '@/mark/reading/show';
import { usePageKeys } from '@/parts/usePageKeys';
import { useSettled } from '@/parts/useSettled';
import { useTagLook } from '@/parts/useTagLook';
import { Box, Word } from '@/parts/WordChoices';
import { count, kinds, kindWords, ofPeople } from '@/parts/words';
import { useMore } from '@/shared/useMore';
import { useTagUses } from '@/shared/useTagUses';
import { asked, lookingFor, unitWords, units, upTo, type Looking } from './looking';
import { PassageWords } from './PassageWords';

type Passage = Schemas['PassageShown'];
type Place = Schemas['PassagePlace'];

const at = '/team/studies/$studyId/mark/find';
const keyOf = (p: Place) => `${p.sourceId}:${p.start}`;
const placeOf = ({ sourceId, start, end, basedOn }: Place): Place => ({ sourceId, start, end, basedOn });

/** Passages of a study found by words while typing; what is chosen of them is tagged in one step. */
export function FindPage() {
  const { studyId } = useParams({ from: at });
  const looking = useSearch({ from: at });
  const navigate = useNavigate();
  const [typed, setTyped] = useState(looking.typed ?? '');
  const settled = useSettled(typed, 120);
  const sources = useQuery(queries.sources(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const { tags } = useTagUses(studyId);
  const look = useTagLook(tags?.map((t) => t.tag));
  const of = useMemo(() => asked(looking, settled), [looking, settled]);
  const pages = useInfiniteQuery({ ...queries.passages(studyId, of), enabled: settled.trim() !== '' });
  const more = useMore(pages);
  const passages = useMemo<Passage[]>(() => (settled.trim() === '' ? [] : (pages.data?.pages.flatMap((p) => p.passages) ?? [])), [pages.data, settled]);
  const breadth = settled.trim() === '' ? undefined : pages.data?.pages[0]?.breadth;
  const complete = pages.data?.pages[0]?.complete ?? true;
  const total = breadth?.triple.observations ?? 0;
  const [chosen, setChosen] = useState<ReadonlyMap<string, Place>>(new Map());
  const [last, setLast] = useState<number | null>(null);
  const [tagging, setTagging] = useState(false);
  const [reviewed, setReviewed] = useState(false);
  const list = useRef<HTMLDivElement>(null);
  const any = chosen.size > 0;
  // The address is what was typed, so that it can be handed on.
  useEffect(() => {
    void navigate({
      to: '/studies/$studyId/mark/find',
      params: { studyId },
      search: (now) => lookingFor({ ...now, typed: settled }),
      replace: true,
    });
  }, [settled, studyId, navigate]);
  const change = (part: { [K in keyof Looking]?: Looking[K] | undefined }) => {
    setChosen(new Map());
    void navigate({
      to: '/studies/$studyId/mark/find',
      params: { studyId },
      search: (now) => Object.fromEntries(Object.entries({ ...now, ...part }).filter(([, value]) => value !== undefined)) as Looking,
      replace: true,
    });
  };
  const choose = (index: number, range: boolean) => {
    const next = new Map(chosen);
    const on = !next.has(keyOf(passages[index]!));
    for (const p of range ? upTo(passages, last, index) : [passages[index]!]) {
      if (range || on) next.set(keyOf(p), placeOf(p));
      else next.delete(keyOf(p));
    }
    setChosen(next);
    setLast(index);
  };
  const chooseAll = async () => {
    try {
      const places = await ask(api.GET('/api/studies/{studyId}/passages/places', { params: { path: { studyId }, query: of } }));
      setChosen(new Map(places.map((p) => [keyOf(p), p])));
    } catch (problem) {
      toast.error((problem as Error).message);
    }
  };
  const tag = useWrite((given: { tagIds: number[]; newTags: string[] }) =>
    ask(
      api.POST('/api/studies/{studyId}/passages/tags', {
        params: { path: { studyId } },
        body: {
          passages: [...chosen.values()],
          ...given,
          reviewed,
          search: reviewed ? null : { typed: settled, unit: of.unit, team: of.team ?? false },
        },
      }),
    ),
  );
  usePageKeys({ t: any && (() => setTagging(true)), Escape: any && (() => setChosen(new Map())) });
  if (!sources || !people || !tags) return <Waiting problem={null} />;
  const who = whoIs(people);
  const title = (id: number) => sources.find((s) => s.id === id)?.title ?? '';
  const rowKeys = (event: KeyOnRow<HTMLDivElement>, index: number) => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[data-passage]') ?? [])];
    const here = rows.indexOf(event.currentTarget);
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      rows[here + (event.key === 'ArrowDown' ? 1 : -1)]?.focus();
      if (event.shiftKey) choose(Math.max(0, Math.min(passages.length - 1, index + (event.key === 'ArrowDown' ? 1 : -1))), true);
    } else if (event.key === ' ') {
      event.preventDefault();
      choose(index, event.shiftKey);
    } else if (event.key === 'a') {
      event.preventDefault();
      void chooseAll();
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const p = passages[index]!;
      void navigate({ to: '/studies/$studyId/mark', params: { studyId }, search: { source: p.sourceId, place: p.start } });
    }
  };
  const newFor = looking.newFor === undefined ? undefined : look(looking.newFor);
  return (
    <div className="mx-auto flex h-full max-w-[980px] flex-col px-5 pt-5">
      <div className="flex items-baseline gap-4">
        <h1 className="font-read text-[22px] font-semibold">Find</h1>
        <input
          autoFocus
          aria-label="Words to find"
          placeholder="cancel | “called off” -kiosk"
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value);
            setChosen(new Map());
          }}
          onKeyDown={(e) => {
            if (e.key === 'ArrowDown') {
              e.preventDefault();
              list.current?.querySelector<HTMLElement>('[data-passage]')?.focus();
            }
          }}
          className="min-w-0 flex-1 rounded-std border border-line bg-case px-3 py-1.5 font-read text-[17px] placeholder:text-ink-soft/80"
        />
      </div>
      <div role="group" aria-label="Where to find" className="mt-2 flex flex-wrap items-center gap-x-2 border-b border-line pb-2 text-[12.5px] text-ink-soft">
        <Word label={unitWords[looking.unit ?? 'sentence']} set={looking.unit !== undefined}>
          {units.map((u) => (
            <Box key={u} label={unitWords[u]} on={(looking.unit ?? 'sentence') === u} onChange={() => change({ unit: u === 'sentence' ? undefined : u })} />
          ))}
        </Word>
        <span>of</span>
        <Word
          label={looking.person ? looking.person.map(who).join(', ') : looking.team ? 'anyone, the team too' : 'anyone'}
          set={looking.person !== undefined || looking.team !== undefined}
        >
          {people.map((p) => (
            <Box
              key={p.id}
              label={`${p.code} ${p.pseudonym}`}
              on={looking.person?.includes(p.id) ?? false}
              onChange={() => change({ person: toggled(looking.person, p.id) })}
            />
          ))}
          <Box label="What the team says too" on={looking.team === true} onChange={() => change({ team: looking.team ? undefined : true })} />
        </Word>
        <span>in</span>
        <Word
          label={looking.kind ? looking.kind.map((k) => kindWords[k].many.toLowerCase()).join(', ') : 'any kind of source'}
          set={looking.kind !== undefined}
        >
          {kinds.map((k) => (
            <Box key={k} label={kindWords[k].many} on={looking.kind?.includes(k) ?? false} onChange={() => change({ kind: toggled(looking.kind, k) })} />
          ))}
        </Word>
        <span>·</span>
        <Word label={looking.source ? looking.source.map(title).join(', ') : 'all sources'} set={looking.source !== undefined}>
          {sources
            .filter((s) => s.length > 0)
            .map((s) => (
              <Box key={s.id} label={s.title} on={looking.source?.includes(s.id) ?? false} onChange={() => change({ source: toggled(looking.source, s.id) })} />
            ))}
        </Word>
        <span>·</span>
        <Word
          label={looking.unmarked ? 'not marked yet' : looking.tag ? `marked ${looking.tag.map((t) => look(t).name).join(' or ')}` : 'marked or not'}
          set={looking.unmarked !== undefined || looking.tag !== undefined}
        >
          <Box
            label="Not marked yet"
            on={looking.unmarked === true}
            onChange={() => change({ unmarked: looking.unmarked ? undefined : true, tag: undefined })}
          />
          {tags
            .filter((t) => t.breadth.triple.observations > 0)
            .map((t) => (
              <Box
                key={t.tag.id}
                label={t.tag.name}
                on={looking.tag?.includes(t.tag.id) ?? false}
                onChange={() => change({ tag: toggled(looking.tag, t.tag.id), unmarked: undefined })}
              >
                <TagDot look={look(t.tag.id)} />
              </Box>
            ))}
        </Word>
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
      {breadth && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2.5">
          <PeopleStrip people={people} breadth={breadth} onPick={(p) => change({ person: p === null ? undefined : [p] })} />
          <span className="font-medium">
            {complete ? '' : 'the first '}
            {count(total, 'passage')}, {ofPeople(breadth.triple.people, breadth.outOf)}
          </span>
          <span className="text-ink-soft">
            in {count(breadth.triple.sources, 'source')}
            {breadth.triple.unattributed > 0 && `, ${breadth.triple.unattributed} unattributed`}
          </span>
          {total > 0 && (
            <button type="button" className="ml-auto min-h-6 text-sky hover:underline" onClick={() => void chooseAll()}>
              Choose all {total} <Key>a</Key>
            </button>
          )}
        </div>
      )}
      {pages.error && (
        <p role="alert" className="py-3 text-oxblood">
          {pages.error.message}
        </p>
      )}
      {settled.trim() === '' ? (
        <Empty title="Words find passages" sample="“cancel | called” finds cancelled, cancellation and called">
          Words find their other forms too; “in quotes” they stand as typed. a | b is either, a ~5 b near each other, -a without.
        </Empty>
      ) : total === 0 && !pages.isFetching ? (
        <p className="py-6 text-ink-soft">No passage holds these words. Fewer words, or longer passages, find more.</p>
      ) : (
        <div ref={list} className="contents">
          <LongList
            label="Passages"
            items={passages}
            keyOf={(p) => p.sourceId * 1e9 + p.start}
            height={84}
            total={total}
            onNearEnd={more}
            className="min-h-0 flex-1 pb-6"
          >
            {(p, i) => (
              <>
                {passages[i - 1]?.sourceId !== p.sourceId && (
                  <h2 className="border-b border-line pt-3 pb-1 text-[12.5px] font-semibold text-ink-soft">{title(p.sourceId)}</h2>
                )}
                <div
                  data-passage
                  role="group"
                  aria-label={`Passage of ${who(p.participantId)}`}
                  tabIndex={i === 0 ? 0 : -1}
                  onKeyDown={(e) => e.target === e.currentTarget && rowKeys(e, i)}
                  className="grid grid-cols-[24px_minmax(0,1fr)_150px] gap-x-3 rounded-std py-2.5 focus-visible:outline-2 focus-visible:outline-verdigris"
                >
                  <input
                    type="checkbox"
                    tabIndex={-1}
                    aria-label={`Choose “${p.words.slice(0, 60)}”`}
                    checked={chosen.has(keyOf(p))}
                    onChange={(e) => choose(i, (e.nativeEvent as MouseEvent).shiftKey)}
                    className="mt-1.5 size-4 accent-verdigris"
                  />
                  <PassageWords passage={p} />
                  <div className="flex flex-col items-start gap-0.5 text-[12px] text-ink-soft">
                    <span className="font-semibold text-ink">{who(p.participantId)}</span>
                    <Link
                      to="/studies/$studyId/mark"
                      params={{ studyId }}
                      search={{ source: p.sourceId, place: p.start }}
                      tabIndex={-1}
                      className="text-sky hover:underline"
                    >
                      open in place
                    </Link>
                    {p.tagIds.slice(0, 3).map((id) => (
                      <TagLabel key={id} look={look(id)} />
                    ))}
                    {p.tagIds.length > 3 && <span>and {p.tagIds.length - 3} more</span>}
                  </div>
                </div>
              </>
            )}
          </LongList>
        </div>
      )}
      {any && (
        <div role="group" aria-label="Chosen passages" className="relative flex items-center gap-3 border-t border-line bg-case px-3 py-2 text-[13px]">
          <span className="font-medium">{count(chosen.size, 'passage')} chosen</span>
          <Button look="main" onClick={() => setTagging(true)}>
            Tag <Key>t</Key>
          </Button>
          <label className="inline-flex min-h-6 items-center gap-1.5">
            <input type="checkbox" checked={reviewed} onChange={(e) => setReviewed(e.target.checked)} className="size-4 accent-verdigris" />I have looked at
            each
          </label>
          <span className="text-ink-soft">{reviewed ? 'They are marks like any other.' : 'They stay apart as found, not reviewed.'}</span>
          <Button look="quiet" className="ml-auto" onClick={() => setChosen(new Map())}>
            Choose none <Key>Esc</Key>
          </Button>
          {tagging && (
            <div className="absolute bottom-full left-3 mb-2">
              <TagLine
                tags={tags}
                look={look}
                recent={[]}
                before={
                  looking.newFor === undefined
                    ? {
                        tagIds: [],
                        newTags: [
                          settled
                            .replace(/["|~-]/g, ' ')
                            .replace(/\s+/g, ' ')
                            .trim(),
                        ],
                      }
                    : { tagIds: [looking.newFor], newTags: [] }
                }
                onDone={(tagIds, newTags) => {
                  setTagging(false);
                  if (tagIds.length + newTags.length === 0) return;
                  tag.mutate({ tagIds, newTags }, { onSuccess: () => setChosen(new Map()) });
                }}
                onCancel={() => setTagging(false)}
              />
            </div>
          )}
        </div>
      )}
    </div>
  );
}
