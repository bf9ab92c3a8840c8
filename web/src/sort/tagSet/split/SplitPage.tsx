import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Empty, Waiting } from '@/parts/Empty';
import { readTyped } from '@/parts/findTags';
import { whoIs } from '@/parts/QuoteItem';
import { TagLine } from '@/parts/TagLine';
import { ActionButton } from '@/parts/actions/ActionButton';
import { usePageActions } from '@/parts/actions/registry';
import { splitting, type SplittingActs } from './actions';
import { useTagLook } from '@/parts/useTagLook';
import { count } from '@/parts/words';
import { useTagUses } from '@/shared/useTagUses';
import { DecideMany } from './DecideMany';
import { SplitEnd } from './SplitEnd';
import { SplitPassage } from './SplitPassage';
import { SplitTrays } from './SplitTrays';
import { decisionOn, freeKey, next, peopleSoFar, takenBack, type Decision, type Going } from './split';
import { useItems, useSplit } from './useSplit';

const at = '/team/studies/$studyId/sort/split/$tagId';
const digits = ['1', '2', '3', '4', '5', '6', '7', '8', '9'];

/** The split desk: a wide tag's observations one after the other, each sent to a narrower tag by one key. */
export function SplitPage() {
  const { studyId, tagId } = useParams({ from: at });
  return <Desk key={`${studyId} ${tagId}`} studyId={studyId} tagId={tagId} />;
}

function Desk({ studyId, tagId }: { studyId: number; tagId: number }) {
  const navigate = useNavigate();
  const { split, error, change, now } = useSplit(studyId, tagId);
  const { tags: uses } = useTagUses(studyId);
  const tags = useQuery(queries.tags(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const look = useTagLook(tags);
  const [looked, setLooked] = useState<number | null>(null);
  const [going, setGoing] = useState<Going>('open');
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [making, setMaking] = useState<number | null>(null);
  const [many, setMany] = useState(false);
  const current = looked !== null && split?.observations.includes(looked) ? looked : split ? next(split, going, null) : null;
  const item = useItems(studyId, tagId, split, current);
  const finish = useWrite((keep: boolean) =>
    ask(api.POST('/api/studies/{studyId}/tags/{tagId}/split/finish', { params: { path: { studyId, tagId } }, body: { keep } })),
  );

  const goOn = (behind: number | null) => {
    setChosen([]);
    setLooked(split && behind !== null ? next(split, going, behind) : null);
  };
  const decide = (outcome: Decision['outcome'], trays: readonly number[] = []) => {
    if (!split || current === null) return;
    change({ do: 'decide', ids: [current], outcome, trays });
    setChosen([]);
    setLooked(next(now() ?? split, going, current));
  };
  const send = (number: number) => {
    if (!split || current === null || !split.trays.some((t) => t.number === number)) return;
    if (!split.several) return decide('trays', [number]);
    setChosen((all) => (all.includes(number) ? all.filter((n) => n !== number) : [...all, number]));
  };
  const turn = (by: 1 | -1) => {
    if (!split) return;
    const place = current === null ? split.observations.length : split.observations.indexOf(current);
    const to = split.observations[place + by];
    if (to !== undefined) {
      setChosen(decisionOn(split, to)?.trays ?? []);
      setLooked(to);
    }
  };
  const newTray = () => setMaking(split ? freeKey(split) : null);
  const back = () => {
    const before = now();
    if (!before || before.decisions.length === 0) return;
    change({ do: 'back' });
    setLooked(takenBack(before).of);
    setChosen([]);
  };
  const leave = () => void navigate({ to: '/studies/$studyId/tags/$tagId', params: { studyId, tagId } });
  const busy = making !== null || many;
  const acts: SplittingActs = {
    send,
    sendChosen: chosen.length > 0 ? () => decide('trays', chosen) : null,
    unsure: () => decide('unsure'),
    wide: () => decide('wide'),
    back,
    turn,
    newTray,
    many: () => setMany(true),
    leave,
  };
  usePageActions(splitting, busy ? null : acts);
  if (!split || !uses || !tags || !people) return <Waiting problem={error} />;
  const who = whoIs(people);
  const unsure = split.decisions.filter((d) => d.outcome === 'unsure').length;
  const done = split.decisions.length;
  if (split.observations.length === 0)
    return (
      <Empty
        title={`Nothing is left on “${split.wide.name}”`}
        sample="this one here, that one there"
        action={
          <Link
            to="/studies/$studyId/sort/tags"
            params={{ studyId }}
            className="inline-flex min-h-8 items-center rounded-std bg-verdigris px-3 font-medium text-on-verdigris"
          >
            To the tag set
          </Link>
        }
      >
        A tag is split by going through its own observations. This one has none in this study.
      </Empty>
    );
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto flex min-h-full max-w-[1200px] flex-col px-5 py-4">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1 className="flex items-baseline gap-3 font-read text-[20px] font-semibold">
            <span className="font-use text-[13px] font-normal text-ink-soft">Splitting</span> {split.wide.name}
          </h1>
          <span role="status" className="text-[13px] text-ink-soft">
            {done} of {split.observations.length} looked at, {count(peopleSoFar(split), 'person', 'people')} so far
          </span>
          <span role="group" aria-label="How many trays an observation goes to" className="ml-auto flex items-center gap-3 text-[13px]">
            {[false, true].map((several) => (
              <button
                key={String(several)}
                type="button"
                aria-pressed={split.several === several}
                className="min-h-6 border-b border-transparent text-ink-soft aria-pressed:border-ink aria-pressed:text-ink"
                onClick={() => {
                  setChosen([]);
                  change({ do: 'several', several });
                }}
              >
                {several ? 'several' : 'one tray each'}
              </button>
            ))}
          </span>
          <ActionButton action={splitting.actions.leave} on={acts} />
        </div>
        <div className="mt-2.5 h-[3px] shrink-0 bg-line" aria-hidden>
          <div className="h-full bg-verdigris" style={{ width: `${(done / split.observations.length) * 100}%` }} />
        </div>
        <div className="grid h-[300px] shrink-0 content-center py-3">
          {current === null ? (
            <p className="text-center font-read text-[19px]">
              All {split.observations.length} are looked at.
              {unsure > 0 && (
                <button
                  type="button"
                  className="ml-3 min-h-6 font-use text-[14px] text-sky hover:underline"
                  onClick={() => {
                    setGoing('unsure');
                    goOn(null);
                  }}
                >
                  Look at the {unsure} not sure
                </button>
              )}
            </p>
          ) : item ? (
            <SplitPassage key={current} studyId={studyId} item={item} split={split} who={who} look={look} />
          ) : (
            <p className="text-center text-ink-soft">…</p>
          )}
        </div>
        <SplitTrays
          studyId={studyId}
          split={split}
          look={look}
          hint={item?.hint ?? null}
          chosen={chosen}
          acts={acts}
          onRemove={(number) => change({ do: 'removeTray', number })}
        />
        {split.several && chosen.length > 0 && (
          <p className="mt-2 text-[13px]">
            <ActionButton action={splitting.actions.send} on={acts} look="main" />
          </p>
        )}
        {making !== null && (
          <div className="mt-3 w-[420px]" role="group" aria-label={`Tray ${making}`}>
            <p className="mb-1 text-[13px] text-ink-soft">
              A narrower tag for the key {making}: one that is there, or a new name. A comma takes one and stays.
            </p>
            <TagLine
              tags={uses.filter((u) => u.tag.id !== tagId && !split.trays.some((t) => t.tagId === u.tag.id))}
              look={look}
              recent={[]}
              onDone={(tagIds, newTags) => {
                const free = digits.map(Number).filter((n) => !split.trays.some((t) => t.number === n));
                const given = [...tagIds.map((id) => ({ tagId: id, name: null })), ...newTags.map((name) => ({ tagId: null, name: readTyped(name).name }))];
                given.slice(0, free.length).forEach((tray, i) => change({ do: 'tray', number: free[i]!, ...tray }));
                setMaking(null);
              }}
              onCancel={() => setMaking(null)}
            />
          </div>
        )}
        <div className="mt-5 grid grid-cols-2 gap-x-10 pb-4">
          <section aria-label="Decide many at once">
            <h2 className="mb-1.5 text-[13px] text-ink-soft">Many at once</h2>
            <ActionButton action={splitting.actions.many} on={acts} disabled={split.trays.length === 0} />
          </section>
          <SplitEnd split={split} busy={finish.isPending} onFinish={(keep) => finish.mutate(keep, { onSuccess: leaveTo })} />
        </div>
        {many && (
          <DecideMany
            studyId={studyId}
            split={split}
            people={people}
            onClose={() => setMany(false)}
            onSend={(ids, tray) => {
              change({ do: 'decide', ids, outcome: 'trays', trays: [tray] });
              setLooked(null);
              setMany(false);
            }}
          />
        )}
      </div>
    </div>
  );

  function leaveTo(step: { id: number | null }) {
    void navigate({ to: '/studies/$studyId/sort/tags', params: { studyId }, search: step.id === null ? {} : { tag: step.id } });
  }
}
