import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useEffect, useRef, useState } from 'react';
import { queries } from '@/api/queries';
import { ActionButton } from '@/parts/actions/ActionButton';
import { ActionHints } from '@/parts/actions/ActionHints';
import { usePageActions } from '@/parts/actions/registry';
import { Waiting } from '@/parts/Empty';
import { PickByTitle } from '@/parts/PickByTitle';
import { whoIs } from '@/parts/QuoteItem';
import { useTagLook } from '@/parts/useTagLook';
import { count } from '@/parts/words';
import { isThere, useGone } from '@/shared/useGone';
import { walking, type WalkActs } from './actions';
import { askedFor } from './asked';
import { GroupHead } from './GroupHead';
import { GroupShelf, pileWords } from './GroupShelf';
import { SuggestedItem } from './SuggestedItem';
import { useAnswers } from './useAnswers';
import { after, goesOn, inTurn, isWaiting, nameOf, placeOf, placesOf, withGiven, yesTo, type Item, type Place } from './walk';

const at = '/team/studies/$studyId/sort/suggestions/$suggestionId';
/** So many of a group are shown at once; more when asked for. */
const atOnce = 30;

/** Suggestions gone through one by one: yes, no, elsewhere, later; nothing is done without an answer. */
export function SuggestionPage() {
  const { studyId, suggestionId } = useParams({ from: at });
  return <Walk key={suggestionId} studyId={studyId} suggestionId={suggestionId} />;
}

function Walk({ studyId, suggestionId }: { studyId: number; suggestionId: number }) {
  const search = useSearch({ from: at });
  const navigate = useNavigate();
  const { data: view, error } = useQuery(queries.suggestion(studyId, suggestionId));
  const themes = useQuery(queries.sorting(studyId)).data?.themes;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const tags = useQuery(queries.tags(studyId)).data;
  const look = useTagLook(tags);
  const { given, answer, intoNew } = useAnswers(suggestionId);
  const [looked, setLooked] = useState<number | null>(null);
  const [most, setMost] = useState(atOnce);
  const [moving, setMoving] = useState<Item | null>(null);
  const currentRow = useRef<HTMLLIElement>(null);
  const card = useRef<HTMLElement>(null);

  const items = withGiven(view?.items ?? [], given);
  const groups = view?.groups ?? [];
  const places = placesOf(groups, items);
  const place = search.at !== undefined && places.includes(search.at) ? search.at : goesOn(places, items, places[0] ?? 'alone');
  const listed = inTurn(items, place);
  const current = listed.find((item) => item.id === looked) ?? listed.find(isWaiting) ?? listed[0];
  const shown = listed.slice(0, most);
  const quotes = useQuery(
    queries.suggestedQuotes(
      studyId,
      suggestionId,
      shown.flatMap((item) => item.observationId ?? []).toSorted((a, b) => a - b),
    ),
  ).data;
  useEffect(() => {
    currentRow.current?.scrollIntoView({ block: 'nearest' });
  }, [current?.id]);
  useGone(isThere(view, error), () => void navigate({ to: '/studies/$studyId/sort/suggestions', params: { studyId } }));

  const goTo = (to: Place) => {
    setLooked(null);
    setMost(atOnce);
    void navigate({ to: '/studies/$studyId/sort/suggestions/$suggestionId', params: { studyId, suggestionId }, search: { at: to }, replace: true });
  };
  /** Goes on behind what was answered: in the same place, or where something is left. */
  const goOn = (done: readonly Item[]) => {
    const next = done.length === 1 ? after(listed, done[0]!.id) : null;
    if (next !== null) return setLooked(next);
    goTo(
      goesOn(
        places,
        items.filter((item) => !done.includes(item)),
        place,
      ),
    );
  };
  const isPlacing = view?.head.kind === 'placing';
  const isTheme = (id: number) => groups.some((g) => g.id === id && g.themeId !== null);
  const say = (item: Item, what: 'accepted' | 'refused' | 'later', groupId: number | null) => {
    void answer({ items: [item], answer: what, groupId });
    goOn([item]);
  };
  const move = (item: Item, groupId: number) => {
    if (groupId === placeOf(item)) return;
    void answer({ items: [item], answer: isTheme(groupId) ? 'accepted' : 'open', groupId });
    goOn([item]);
  };
  const acceptAll = (which: readonly Item[]) => void answer({ items: which, answer: 'accepted', groupId: null });
  const free = current !== undefined && current.answer !== 'accepted';
  const into = current ? yesTo(current) : null;
  const waiting = listed.filter(isWaiting);
  const fitting = items.filter((item) => isWaiting(item) && typeof placeOf(item) === 'number');
  const group = groups.find((g) => g.id === place);
  const acts: WalkActs = {
    yes: free && into !== null ? () => say(current, 'accepted', into) : null,
    no: free && into !== null && current.answer !== 'refused' ? () => say(current, 'refused', into) : null,
    elsewhere: free ? () => setMoving(current) : null,
    later: free && current.answer === 'open' ? () => say(current, 'later', null) : null,
    into: (number) => {
      const to = groups[number - 1];
      if (free && to) move(current, to.id);
    },
    group:
      group && waiting.length > 0
        ? () => {
            acceptAll(waiting);
            goOn(waiting);
          }
        : null,
    claim: group ? () => document.querySelector<HTMLElement>('#claim-of-group textarea')?.focus() : null,
    step: (by) => {
      const to = listed[listed.findIndex((item) => item.id === current?.id) + by];
      if (!to) return;
      setLooked(to.id);
      if (!shown.includes(to)) setMost(most + atOnce);
    },
    place: (by) => {
      const to = places[places.indexOf(place) + by];
      if (to !== undefined) goTo(to);
    },
  };
  usePageActions(walking, moving ? null : acts);

  if (!view || !people || !tags || !themes) return <Waiting problem={error} />;
  const who = whoIs(people);
  const answered = items.length - items.filter(isWaiting).length;
  const nameOfPlace = (id: number | null) => {
    const n = groups.findIndex((g) => g.id === id);
    return n < 0 ? '' : nameOf(groups[n], n + 1);
  };
  return (
    <div className="grid h-full grid-cols-[300px_minmax(0,1fr)]">
      <aside aria-label="Groups that were suggested" className="flex flex-col overflow-hidden border-r border-line bg-paper-deep">
        <div className="px-5 pt-4 pb-2">
          <p className="text-[12.5px]">
            <Link to="/studies/$studyId/sort/suggestions" params={{ studyId }} className="text-sky hover:underline">
              Suggestions
            </Link>
          </p>
          <h1 className="mt-0.5 font-read text-[18px] leading-[1.3] font-semibold">{askedFor(view.head, themes)}</h1>
          <p role="status" className="mt-0.5 text-[12.5px] text-ink-soft">
            {answered} of {items.length} answered
          </p>
          {fitting.length > 0 && (
            <button type="button" className="min-h-6 text-[12.5px] text-sky hover:underline" onClick={() => acceptAll(fitting)}>
              Accept all that fit, {fitting.length}
            </button>
          )}
        </div>
        <GroupShelf view={view} items={items} places={places} place={place} people={people} onPlace={goTo} />
      </aside>
      <div className="overflow-y-auto px-8 py-5">
        <div className="mx-auto max-w-[780px]">
          <section
            ref={card}
            tabIndex={-1}
            aria-label={group ? nameOfPlace(group.id) : pileWords[place as keyof typeof pileWords].name}
            className={`rounded-std border bg-case px-5 pt-4 pb-5 outline-none ${group && group.themeId === null ? 'border-dashed border-ink-soft/50' : 'border-line'}`}
          >
            {group ? (
              <GroupHead {...{ studyId, suggestionId, group, people, who }} onLeave={() => card.current?.focus()} />
            ) : (
              <header>
                <h2 className="font-read text-[21px] font-semibold">{pileWords[place as keyof typeof pileWords].name}</h2>
                <p className="text-ink-soft">{pileWords[place as keyof typeof pileWords].says}</p>
              </header>
            )}
            {listed.length === 0 ? (
              <p className="mt-4 border-t border-line pt-4 text-ink-soft">Nothing is suggested here now.</p>
            ) : (
              <ul aria-label="Suggested" className="mt-3">
                {shown.map((item) => {
                  const here = item.id === current?.id;
                  return (
                    <li
                      key={item.id}
                      ref={here ? currentRow : undefined}
                      aria-current={here}
                      onClick={() => setLooked(item.id)}
                      className={`border-t border-line ${here ? 'border-l-2 border-l-verdigris bg-paper py-3 pr-3 pl-4' : 'cursor-pointer py-1.5 pr-3 pl-4.5'}`}
                    >
                      <SuggestedItem
                        {...{ studyId, item, look, who }}
                        current={here}
                        tag={tags.find((t) => t.id === item.tagId)}
                        quote={quotes?.find((q) => q.observationId === item.observationId)}
                      >
                        {typeof place !== 'number' && into !== null && (
                          <p className="mt-1 text-[13px]">
                            Nearest to <span className="font-semibold">{nameOfPlace(into)}</span>
                            {item.nextId !== null && item.nextId !== into && (
                              <>
                                , then to <span className="font-semibold">{nameOfPlace(item.nextId)}</span>
                              </>
                            )}
                            .
                          </p>
                        )}
                        <div className="mt-2.5 flex flex-wrap items-center gap-2">
                          <ActionButton action={walking.actions.yes} on={acts} look="main" />
                          <ActionButton action={walking.actions.no} on={acts} />
                          <ActionButton action={walking.actions.elsewhere} on={acts} />
                          <ActionButton action={walking.actions.later} on={acts} look="quiet" />
                        </div>
                      </SuggestedItem>
                    </li>
                  );
                })}
              </ul>
            )}
            {listed.length > shown.length && (
              <button type="button" className="mt-2 min-h-6 text-sky hover:underline" onClick={() => setMost(most + atOnce)}>
                Show more, {listed.length - shown.length} are left
              </button>
            )}
            {group && (
              <div className="mt-4 flex flex-wrap items-center gap-2 border-t border-line pt-3">
                <ActionButton action={walking.actions.group} on={acts}>
                  {waiting.length === 0 ? 'Nothing waits here' : `Accept ${waiting.length === 1 ? 'the last one' : `all ${waiting.length}`}`}
                </ActionButton>
                <ActionButton action={walking.actions.claim} on={acts} look="quiet" />
                <span className="ml-auto text-[12px] text-ink-soft">
                  {group.themeId === null ? 'The first yes makes it a theme.' : `${count(group.observations, 'observation')} with what is suggested`}
                </span>
              </div>
            )}
          </section>
          <p className="mt-3 text-[12.5px] text-ink-soft">
            <ActionHints of={[walking.actions.next, walking.actions.nextGroup, walking.actions.into]} />
            <span className="ml-4">Ctrl Z takes an answer back.</span>
          </p>
        </div>
      </div>
      {moving && (
        <PickByTitle
          title="Where does it belong?"
          label="Group"
          items={groups.flatMap((g, i) => (g.id === placeOf(moving) ? [] : [{ id: String(g.id), title: nameOf(g, i + 1), pick: () => move(moving, g.id) }]))}
          none="No group is called that."
          make={{
            label: (typed) => `New ${isPlacing ? 'theme' : 'group'} “${typed}”`,
            act: (typed) => {
              intoNew(moving, typed, isPlacing);
              goOn([moving]);
            },
          }}
          onClose={() => setMoving(null)}
        />
      )}
    </div>
  );
}
