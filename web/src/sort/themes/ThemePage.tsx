import { WhoWasAsked } from '@/shared/WhoWasAsked';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { textAt } from '@/api/waiting/writeTo';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { Level } from '@/parts/Level';
import { LongList } from '@/parts/LongList';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { QuoteItem, whoIs } from '@/parts/QuoteItem';
import { TagLabel } from '@/parts/TagLabel';
import { hue, type TagLook } from '@/parts/tagLook';
import { useTagLook } from '@/parts/useTagLook';
import { factWords } from '@/parts/factWords';
import { count, ofPeople } from '@/parts/words';
import { AutoText } from '@/shared/AutoText';
import { ofPerson } from '@/shared/evidence';
import { FilterLine } from '@/shared/filter/FilterLine';
import { asQuery } from '@/shared/filter/where';
import { useWhere } from '@/shared/filter/useWhere';
import { ToldQuotes } from '@/shared/ToldQuotes';
import { UsedBy } from '@/shared/UsedBy';
import { useEvidence } from '@/shared/useEvidence';
import { isThere, useGone } from '@/shared/useGone';
import { usePieceQuotes } from '@/shared/useQuotes';
import { TrailButton } from '@/trail/Trail';
import { claimOf } from '@/shared/claim';
import { AskForSuggestions } from '@/sort/suggestions/AskForSuggestions';
import { nothing } from './chosen';
import { MergeThemes } from './MergeThemes';
import { Piece } from './Piece';
import { thinSentence } from './thin';
import { usePieces } from './usePieces';

const stances = ['supports', 'contradicts', 'context'] as const;
const headings = { supports: 'Supports it', contradicts: 'Says otherwise', context: 'Context' };
const colours = 12;

/** One theme: what it claims and means, where it is thin, its evidence by stance and person, what hangs on it. */
export function ThemePage() {
  const { studyId, themeId } = useParams({ from: '/team/studies/$studyId/sort/themes/$themeId' });
  const { where, setWhere } = useWhere();
  const { data: page, error } = useQuery(queries.theme(studyId, themeId, asQuery(where)));
  const all = useQuery(queries.sorting(studyId, asQuery(where))).data?.themes;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const questions = useQuery(queries.researchQuestions(studyId)).data;
  const uses = useQuery(queries.usesOf('theme', themeId)).data;
  const look = useTagLook(useQuery(queries.tags(studyId)).data);
  const { open } = useEvidence();
  const [merging, setMerging] = useState(false);
  const [splitting, setSplitting] = useState(false);
  const { onFocus, setStance, takeOut } = usePieces();
  const navigate = useNavigate();
  const path = { id: themeId };
  const leave = () => void navigate({ to: '/studies/$studyId/sort', params: { studyId } });
  const remove = useWrite(() => ask(api.DELETE('/api/themes/{id}', { params: { path } })));
  const setColour = useWrite((colour: number) => ask(api.PUT('/api/themes/{id}/colour', { params: { path }, body: { colour } })), { quiet: true });
  const answer = useWrite((researchQuestionIds: number[]) => ask(api.PUT('/api/themes/{id}/questions', { params: { path }, body: { researchQuestionIds } })), {
    quiet: true,
  });
  const insight = useWrite(() => ask(api.POST('/api/themes/{id}/insight', { params: { path } })));
  useGone(remove.isIdle && !merging ? isThere(page, error) : undefined, leave);
  if (!page || !people || !all || !questions) return <Waiting problem={error} />;
  const { view } = page;
  const { theme, facts, breadth } = view;
  const who = whoIs(people);
  const subs = all.filter((t) => t.theme.parentId === themeId);
  const parent = all.find((t) => t.theme.id === theme.parentId);
  const incomplete = view.thinSpots.some((s) => s === 'noClaim' || s === 'noDescription');
  const using = (uses?.kinds ?? []).filter((k) => k.kind !== 'observation' && k.kind !== 'theme');
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto grid max-w-[1180px] grid-cols-[minmax(0,1fr)_290px] gap-x-12 px-5 py-5">
        <div className="min-w-0">
          <p className="mb-1 text-[13px] text-ink-soft">
            <Link to="/studies/$studyId/sort" params={{ studyId }} search={{ theme: themeId }} className="hover:underline">
              Sorting table
            </Link>
            {parent && (
              <>
                {' / '}
                <Link to="/studies/$studyId/sort/themes/$themeId" params={{ studyId, themeId: parent.theme.id }} className="hover:underline">
                  {claimOf(parent.theme)}
                </Link>
              </>
            )}
          </p>
          <AutoText
            key={`t${themeId}`}
            label="Claim"
            value={theme.title}
            placeholder="What its observations claim together, in a sentence"
            className="font-read text-[25px] leading-[1.25] font-semibold"
            path={textAt('/api/themes/{id}/title', path)}
            what="Claim of a theme"
          />
          <AutoText
            key={`d${themeId}`}
            label="Description"
            value={theme.description}
            placeholder="What it means, in a sentence or two"
            className="mt-1 font-read text-[16px] leading-[1.55]"
            path={textAt('/api/themes/{id}/description', path)}
            what={`Description of “${claimOf(theme)}”`}
          />
          <div className="mt-3 border-y border-line py-1.5">
            <FilterLine studyId={studyId} where={where} onWhere={setWhere}>
              <span>Counted: observations</span>
            </FilterLine>
          </div>
          <p className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13.5px] text-ink-soft">
            <Level of={facts.level} />
            <PeopleStrip people={people} breadth={breadth} large onPick={(p) => open(ofPerson({ themeId }, p))} />
            {factWords(facts, breadth.outOf, page.newestEvidence).map((words) => (
              <span key={words}>{words}</span>
            ))}
            <span>{count(facts.supporting + facts.contradicting + facts.context, 'observation')}</span>
          </p>
          {subs.length > 0 && (
            <section aria-label="Sub-themes" className="mt-6">
              <h2 className="mb-1 font-read text-[18px] font-semibold">Under it</h2>
              <ul>
                {subs.map((sub) => (
                  <li key={sub.theme.id} className="flex flex-wrap items-center gap-x-3 border-t border-line py-1.5">
                    <Link
                      to="/studies/$studyId/sort/themes/$themeId"
                      params={{ studyId, themeId: sub.theme.id }}
                      className="font-read text-[15.5px] font-medium hover:underline"
                    >
                      {claimOf(sub.theme)}
                    </Link>
                    <span className="ml-auto inline-flex items-center gap-3 text-[12.5px] text-ink-soft">
                      <PeopleStrip people={people} breadth={sub.breadth} />
                      {ofPeople(sub.breadth.triple.people, sub.breadth.outOf)}
                      <Level of={sub.facts.level} />
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          )}
          <ToldQuotes told={page.told} who={who} studyId={studyId} colour={hue(theme.colour ?? 0)} ask="does it belong here?" />
          {facts.supporting + facts.contradicting + facts.context === 0 && (
            <p className="mt-8 rounded-std border border-dashed border-line px-5 py-6 text-center text-ink-soft">
              Nothing lies in it yet. Put observations or whole tags in it at the sorting table, or from any list of words.
            </p>
          )}
          {stances.map((stance) => (
            <Pieces
              key={stance}
              {...{ studyId, themeId, stance, who, look, onFocus }}
              under={asQuery(where)}
              onStance={(piece, to) => setStance.mutate({ themeId, observationId: piece.quote.observationId, stance: to })}
              onTakeOut={(id) => takeOut.mutate({ themeId, observationIds: [id], tagIds: [] })}
            />
          ))}
        </div>
        <aside aria-label="About this theme" className="text-[13px]">
          <section className="rounded-std border border-line bg-case p-4">
            <Button
              look="main"
              className="w-full justify-center"
              disabled={insight.isPending}
              aria-describedby={incomplete ? 'says-too-little' : undefined}
              onClick={() =>
                insight.mutate(undefined, {
                  onSuccess: (step) => void navigate({ to: '/studies/$studyId/show/$insightId', params: { studyId, insightId: step.id! } }),
                })
              }
            >
              Make an insight
            </Button>
            <p id="says-too-little" className="mt-2 text-[12px] text-ink-soft">
              {incomplete ? 'It needs a claim and a description first.' : 'The claim becomes its headline; everything is attached with its stance.'}
            </p>
          </section>
          {view.thinSpots.length > 0 && (
            <section aria-label="Where it is thin" className="mt-5">
              <h2 className="mb-1 font-semibold">Where it is thin</h2>
              <ul className="space-y-1.5">
                {view.thinSpots.map((spot) => (
                  <li key={spot} className="border-l-2 border-brass pl-2.5 text-ink-soft">
                    {thinSentence(spot, page)}
                  </li>
                ))}
              </ul>
              <p className="mt-1.5">
                <Link to="/studies/$studyId/sort/who-next" params={{ studyId }} search={{ theme: themeId }} className="text-sky hover:underline">
                  Whom to talk to next
                </Link>
              </p>
            </section>
          )}
          {questions.length > 0 && (
            <fieldset className="mt-5">
              <legend className="mb-1 font-semibold">Questions it answers</legend>
              {questions.map((q) => (
                <label key={q.id} className="flex items-start gap-2 py-0.5 text-ink-soft">
                  <input
                    type="checkbox"
                    className="mt-0.5 size-4 shrink-0 accent-verdigris"
                    checked={theme.researchQuestionIds.includes(q.id)}
                    onChange={(e) =>
                      answer.mutate(e.target.checked ? [...theme.researchQuestionIds, q.id] : theme.researchQuestionIds.filter((id) => id !== q.id))
                    }
                  />
                  {q.text}
                </label>
              ))}
            </fieldset>
          )}
          {theme.tagIds.length > 0 && (
            <section className="mt-5">
              <h2 className="mb-1 font-semibold">Tags in it</h2>
              <ul className="flex flex-wrap gap-1.5">
                {theme.tagIds.map((id) => (
                  <li key={id} className="flex w-full items-center gap-2">
                    <TagLabel look={look(id)}>
                      <span className="text-ink-soft">{view.arrivedByTag[id] ?? 0}</span>
                    </TagLabel>
                    <Link
                      to="/studies/$studyId/mark/more/$tagId"
                      params={{ studyId, tagId: id }}
                      search={{ theme: themeId }}
                      aria-label={`Find more like “${look(id).name}”, for this theme`}
                      className="inline-flex min-h-6 items-center text-sky hover:underline"
                    >
                      find more
                    </Link>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {using.length > 0 && (
            <section aria-label="What hangs on it" className="mt-5">
              <h2 className="mb-1 font-semibold">What hangs on it</h2>
              {using.flatMap((k) => k.named.map((u) => <UsedBy key={`${k.kind}${u.id}`} kind={k.kind} of={u} />))}
            </section>
          )}
          <WhoWasAsked studyId={studyId} thing="theme" id={themeId} people={people} notAsked={page.notAsked} />
          <fieldset className="mt-5">
            <legend className="mb-1 font-semibold">Colour</legend>
            <div className="flex flex-wrap gap-1">
              {Array.from({ length: colours }, (_, n) => (
                <label key={n} className="grid size-6 place-items-center rounded-std has-checked:outline-2 has-checked:outline-verdigris">
                  <input
                    type="radio"
                    name="colour"
                    aria-label={`Colour ${n + 1}`}
                    className="sr-only"
                    checked={(theme.colour ?? 0) === n}
                    onChange={() => setColour.mutate(n)}
                  />
                  <span className="size-4 rounded-[3px]" style={{ background: hue(n) }} />
                </label>
              ))}
            </div>
          </fieldset>
          <div className="mt-6 flex items-center border-t border-line pt-3">
            <Button look="quiet" onClick={() => setMerging(true)}>
              Merge…
            </Button>
            <Button look="quiet" onClick={() => setSplitting(true)}>
              Split…
            </Button>
            <TrailButton of={{ thing: 'theme', id: themeId, name: claimOf(theme) }} className="ml-auto" />
            <Button look="quiet" className="hover:!text-oxblood" onClick={() => remove.mutate(undefined, { onSuccess: leave })}>
              Remove
            </Button>
          </div>
        </aside>
      </div>
      {splitting && <AskForSuggestions studyId={studyId} chosen={nothing} theme={theme} onClose={() => setSplitting(false)} />}
      {merging && (
        <MergeThemes
          from={theme}
          themes={all.map((t) => t.theme)}
          onClose={() => setMerging(false)}
          onMerged={(into) => {
            // Until it has led there, what is gone is meant to be gone.
            void navigate({ to: '/studies/$studyId/sort/themes/$themeId', params: { studyId, themeId: into } }).then(() => setMerging(false));
          }}
        />
      )}
    </div>
  );
}

interface PiecesProps {
  studyId: number;
  themeId: number;
  stance: Schemas['Stance'];
  under: ReturnType<typeof asQuery>;
  who: (id: number | null) => string;
  look: (id: number) => TagLook;
  onFocus: ReturnType<typeof usePieces>['onFocus'];
  onStance: (piece: Schemas['ThemeQuote'], to: Schemas['Stance']) => void;
  onTakeOut: (observationId: number) => void;
}

/** All pieces of one stance, person by person. */
function Pieces({ studyId, themeId, stance, under, who, look, onFocus, onStance, onTakeOut }: PiecesProps) {
  const { quotes, total, more } = usePieceQuotes(queries.themePieces(studyId, themeId, { stance, ...under }));
  if (!total) return null;
  return (
    <section aria-label={headings[stance]} className="mt-7">
      <h2 className="mb-1 flex items-baseline gap-3">
        <span className="font-read text-[18px] font-semibold">{headings[stance]}</span>
        <span className="text-[12.5px] text-ink-soft">{count(total, 'observation')}, by person</span>
      </h2>
      <LongList
        label={headings[stance]}
        items={quotes}
        keyOf={(p) => p.quote.observationId}
        height={96}
        gap={6}
        total={total}
        onNearEnd={more}
        className="max-h-[560px] pb-px"
      >
        {(piece, i) => (
          <>
            {quotes[i - 1]?.quote.participantId !== piece.quote.participantId && (
              <h3 className="pt-1.5 pb-1 text-[12.5px] font-semibold text-ink-soft">{who(piece.quote.participantId)}</h3>
            )}
            <Piece
              themeId={themeId}
              piece={piece}
              onFocus={onFocus}
              onTakeOut={() => onTakeOut(piece.quote.observationId)}
              className="flex items-start gap-3 py-2 pr-2"
            >
              <div className="min-w-0 flex-1">
                <QuoteItem quote={piece.quote} who={who(piece.quote.participantId)} studyId={studyId} look={look} />
              </div>
              <select
                aria-label="Stance"
                value={piece.stance}
                onChange={(event) => onStance(piece, event.target.value as Schemas['Stance'])}
                className="mr-6 min-h-7 rounded-std border border-line bg-case px-1.5 text-[12.5px]"
              >
                {stances.map((s) => (
                  <option key={s} value={s}>
                    {s}
                  </option>
                ))}
              </select>
            </Piece>
          </>
        )}
      </LongList>
    </section>
  );
}
