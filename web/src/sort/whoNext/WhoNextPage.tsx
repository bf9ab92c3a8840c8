import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Waiting } from '@/parts/Empty';
import { whoIs } from '@/parts/QuoteItem';
import { TagLabel } from '@/parts/TagLabel';
import { useTagLook } from '@/parts/useTagLook';
import { count, day, ofPeople } from '@/parts/words';
import { Word } from '@/parts/WordChoices';
import { claimOf } from '@/shared/claim';
import { useEvidence } from '@/shared/useEvidence';
import { SortingViews } from '@/sort/themes/SortingViews';
import { groupWords, heardWords, runWords } from './words';

/** So many of the last sessions are told of; more when asked for. */
const lastSessions = 6;
/** So many new tags of a session are named. */
const mostTags = 4;

/** Whom to talk to next, and what to ask: from counts alone, each line with the numbers it rests on. */
export function WhoNextPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const of = useSearch({ from: '/team/studies/$studyId/sort/who-next' });
  const { data: next, error } = useQuery({ ...queries.whoNext(studyId, of), placeholderData: keepPreviousData });
  const themes = useQuery(queries.sorting(studyId)).data?.themes.map((t) => t.theme);
  const questions = useQuery(queries.researchQuestions(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const look = useTagLook(useQuery(queries.tags(studyId)).data);
  const navigate = useNavigate();
  const { open } = useEvidence();
  if (!next || !themes || !questions || !people) return <Waiting problem={error} />;
  const who = whoIs(people);
  const theme = (id: number) => themes.find((t) => t.id === id);
  const looked =
    of.theme !== undefined
      ? `“${claimOf(theme(of.theme) ?? { title: '' })}”`
      : of.question !== undefined
        ? `“${questions.find((q) => q.id === of.question)?.text ?? 'a question'}”`
        : 'the whole study';
  const choose = (search: typeof of) => void navigate({ to: '/studies/$studyId/sort/who-next', params: { studyId }, search, replace: true });
  const sessions = next.sessions.slice(-lastSessions);
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[980px] px-5 py-4">
        <div className="mb-5 flex items-center gap-4">
          <SortingViews studyId={studyId} at="whoNext" />
        </div>
        <h1 className="font-read text-[24px] leading-[1.3] font-semibold">Whom to talk to next</h1>
        <p className="mt-0.5 text-[13.5px] text-ink-soft">
          Looked at is{' '}
          <Word label={looked} set={of.theme !== undefined || of.question !== undefined}>
            <Choice label="the whole study" on={of.theme === undefined && of.question === undefined} onChoose={() => choose({})} />
            {questions.map((q) => (
              <Choice key={`q${q.id}`} label={q.text} on={q.id === of.question} onChoose={() => choose({ question: q.id })} />
            ))}
            {themes.map((t) => (
              <Choice key={t.id} label={claimOf(t)} on={t.id === of.theme} onChoose={() => choose({ theme: t.id })} />
            ))}
          </Word>
          : {ofPeople(next.heard, next.people)} were heard. From counts alone; what it means is for you to say.
        </p>

        <Part title="Hardly heard" empty={next.groups.length === 0 && 'Of every group there are two people or more. Nothing to say from counts.'}>
          {next.groups.map((group) => (
            <li key={groupWords(group)} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)] gap-x-8 border-t border-line py-2.5">
              <div>
                <p className="font-read text-[16.5px] font-medium">{groupWords(group)}</p>
                <p className="text-[12.5px] text-ink-soft">{heardWords(group)}</p>
              </div>
              <div className="text-[13px]">
                <p>
                  {group.notHeardIds.length > 0 ? (
                    <>
                      <span className="text-ink-soft">Talk to </span>
                      {group.notHeardIds.map((id, i) => (
                        <span key={id}>
                          {i > 0 && ', '}
                          <Link to="/studies/$studyId/gather/people/$personId" params={{ studyId, personId: id }} className="text-sky hover:underline">
                            {who(id)}
                          </Link>
                        </span>
                      ))}
                      {group.people - group.heard > group.notHeardIds.length && ` and ${group.people - group.heard - group.notHeardIds.length} more`}
                    </>
                  ) : (
                    <span className="text-ink-soft">Nobody else in the study: look for somebody new.</span>
                  )}
                </p>
                {group.askAboutIds.length > 0 && (
                  <p className="mt-0.5">
                    <span className="text-ink-soft">Ask about </span>
                    {group.askAboutIds.map((id, i) => (
                      <span key={id}>
                        {i > 0 && '; '}
                        <ThemeLink studyId={studyId} theme={theme(id)} />
                      </span>
                    ))}
                    <span className="text-ink-soft">: nobody of them was heard on it</span>
                  </p>
                )}
              </div>
            </li>
          ))}
        </Part>

        <Part title="Rests on one voice" empty={next.oneVoices.length === 0 && 'No claim rests on one voice alone.'}>
          {next.oneVoices.map((voice) => (
            <li key={voice.themeId} className="border-t border-line py-2.5">
              <ThemeLink studyId={studyId} theme={theme(voice.themeId)} large />
              <p className="text-[12.5px] text-ink-soft">
                {who(voice.participantId)} alone supports it,{' '}
                <button
                  type="button"
                  className="min-h-6 underline decoration-dotted underline-offset-4 hover:text-ink"
                  onClick={() => open({ themeId: voice.themeId, cell: { participantIds: [voice.participantId] } })}
                >
                  in {count(voice.observations, 'observation')}
                </button>
                ;{' '}
                {voice.notHeardOn === 0
                  ? 'everybody else was heard on it too'
                  : `${count(voice.notHeardOn, 'other was', 'others were')} not heard on it: ask them`}
                .
              </p>
            </li>
          ))}
        </Part>

        <Part
          title="What the last sessions added"
          empty={next.sessions.length === 0 && 'Nothing is marked yet in what somebody said.'}
          says={runWords(next.lastRun)}
        >
          <li className="border-t border-line pt-1">
            <table className="w-full text-[13px]">
              <thead>
                <tr className="text-left text-ink-soft">
                  <th className="py-1 font-normal">Session</th>
                  <th className="px-3 py-1 text-right font-normal">Tags</th>
                  <th className="py-1 font-normal">New among them</th>
                  <th className="py-1 pl-3 text-right font-normal whitespace-nowrap">New people under old tags</th>
                </tr>
              </thead>
              <tbody>
                {sessions.map((session) => (
                  <tr key={session.sourceId} className="border-t border-line/60 align-baseline">
                    <td className="py-1.5 whitespace-nowrap">
                      <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: session.sourceId }} className="font-medium hover:underline">
                        {session.title}
                      </Link>{' '}
                      <span className="text-[12px] text-ink-soft">{session.heldOn && day(session.heldOn)}</span>
                    </td>
                    <td className="px-3 py-1.5 text-right tabular-nums">{session.tags}</td>
                    <td className="py-1.5">
                      <span className="flex flex-wrap items-center gap-1.5">
                        <span className="min-w-6 tabular-nums">{session.newTagIds.length === 0 ? 'none' : session.newTagIds.length}</span>
                        {session.newTagIds.slice(0, mostTags).map((id) => (
                          <TagLabel key={id} look={look(id)} />
                        ))}
                        {session.newTagIds.length > mostTags && <span className="text-ink-soft">and more</span>}
                      </span>
                    </td>
                    <td className="py-1.5 text-right tabular-nums">{session.newVoices}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {next.sessions.length > sessions.length && (
              <p className="mt-1 text-[12px] text-ink-soft">
                The last {sessions.length} of {next.sessions.length}, by the day they were held.
              </p>
            )}
          </li>
        </Part>
      </div>
    </div>
  );
}

function Part({ title, says, empty, children }: { title: string; says?: string; empty: string | false; children: ReactNode }) {
  return (
    <section aria-label={title} className="mt-7">
      <h2 className="mb-1 font-read text-[18px] font-semibold">{title}</h2>
      {says && <p className="mb-1 text-[13.5px]">{says}</p>}
      {empty ? <p className="border-t border-line py-2.5 text-ink-soft">{empty}</p> : <ul>{children}</ul>}
    </section>
  );
}

function Choice({ label, on, onChoose }: { label: string; on: boolean; onChoose: () => void }) {
  return (
    <label className="flex min-h-7 cursor-pointer items-center gap-2 rounded-[4px] px-1.5 hover:bg-wash">
      <input type="radio" name="looked-at" className="size-4 shrink-0 accent-verdigris" checked={on} onChange={onChoose} />
      <span className="line-clamp-2">{label}</span>
    </label>
  );
}

function ThemeLink({ studyId, theme, large = false }: { studyId: number; theme: Schemas['ThemeHead'] | undefined; large?: boolean }) {
  if (!theme) return null;
  return (
    <Link
      to="/studies/$studyId/sort/themes/$themeId"
      params={{ studyId, themeId: theme.id }}
      className={large ? 'font-read text-[16.5px] font-medium hover:underline' : 'font-read text-[14.5px] hover:underline'}
    >
      {large ? claimOf(theme) : `“${claimOf(theme)}”`}
    </Link>
  );
}
