import { useTagUses } from '@/shared/useTagUses';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useState, type ReactNode } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { isBundle } from '@/parts/bundles';
import { Waiting } from '@/parts/Empty';
import { Level } from '@/parts/Level';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { TagDot } from '@/parts/TagLabel';
import { useTagLook } from '@/parts/useTagLook';
import { ofPerson } from '@/shared/evidence';
import { useEvidence } from '@/shared/useEvidence';
import { consents, consentMeans, count, kindWords, ofPeople } from '@/parts/words';
import { StudyForm } from './StudyForm';
import { StudyTeam } from './StudyTeam';

type To = '/studies/$studyId/gather' | '/studies/$studyId/mark' | '/studies/$studyId/sort' | '/studies/$studyId/weigh' | '/studies/$studyId/show';

/** So many people are named beside a state of consent. */
const mostNamed = 4;

/** What would bring the study on most, from where it stands. */
function nextStep(line: Schemas['StudyLine']): { to: To; action: string; why: string } {
  if (line.sources === 0)
    return {
      to: '/studies/$studyId/gather',
      action: 'Add the first sources',
      why: 'Paste a transcript or drop files; the people in it can be added before or after.',
    };
  if (line.sourcesBegun < line.sources)
    return { to: '/studies/$studyId/mark', action: 'Go on reading', why: `${count(line.sources - line.sourcesBegun, 'source')} nobody has begun to read.` };
  if (line.observations === 0) return { to: '/studies/$studyId/mark', action: 'Mark what strikes you', why: 'Select some words and name them.' };
  if (line.themes === 0) return { to: '/studies/$studyId/sort', action: 'Make the first theme', why: 'Put observations with a shared meaning together.' };
  if (line.insights === 0) return { to: '/studies/$studyId/weigh', action: 'Weigh the evidence', why: 'See who says what, and turn it into an insight.' };
  return { to: '/studies/$studyId/sort', action: 'Go on sorting', why: 'Look at what is in no theme yet.' };
}

/** A study's front page: what is there, who, the tags so far, the insights, and what to do next. */
export function StudyFront() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { data: study, error } = useQuery(queries.study(studyId));
  const people = useQuery(queries.participants(studyId)).data?.people ?? [];
  const { tags } = useTagUses(studyId);
  const insights = useQuery(queries.insights(studyId)).data ?? [];
  const look = useTagLook(tags?.map((t) => t.tag));
  const { open } = useEvidence();
  const [changing, setChanging] = useState(false);
  const change = useWrite(
    (text: Schemas['StudyText']) => ask(api.PUT('/api/studies/{studyId}', { params: { path: { studyId } }, body: { text, version: study!.line.version } })),
    {
      own: true,
    },
  );
  if (!study) return <Waiting problem={error} />;
  const { line } = study;
  const next = nextStep(line);
  const parents = new Set((tags ?? []).map((t) => t.tag.parentId));
  const widest = (tags ?? [])
    .filter((t) => t.breadth.triple.observations > 0 && !parents.has(t.tag.id) && !isBundle(t.tag))
    .sort((a, b) => b.breadth.triple.people - a.breadth.triple.people || b.breadth.triple.observations - a.breadth.triple.observations)
    .slice(0, 9);
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto grid max-w-[1180px] grid-cols-[1fr_400px] gap-x-14 px-5 py-7">
        <div>
          {line.purpose && <p className="max-w-[62ch] font-read text-[18px] leading-[1.55]">{line.purpose}</p>}
          {line.method && <p className="mt-2 max-w-[62ch] text-ink-soft">{line.method}</p>}
          <Part
            title="Research questions"
            action={
              <Button look="quiet" onClick={() => setChanging(true)}>
                Change
              </Button>
            }
          >
            {study.researchQuestions.length === 0 ? (
              <p className="text-ink-soft">None yet. A study that knows its questions knows when it is done.</p>
            ) : (
              <ol className="space-y-2">
                {study.researchQuestions.map((question, i) => (
                  <li key={question} className="flex gap-3 font-read text-[16px]">
                    <span className="w-4 shrink-0 text-ink-soft tabular-nums">{i + 1}</span>
                    {question}
                  </li>
                ))}
              </ol>
            )}
          </Part>
          <Part title="Insights so far">
            {insights.length === 0 ? (
              <p className="text-ink-soft">None yet. They are made from observations, with their evidence attached.</p>
            ) : (
              <ul className="space-y-3">
                {insights.map((page) => (
                  <li key={page.insight.id}>
                    <Link
                      to="/studies/$studyId/show/$insightId"
                      params={{ studyId, insightId: page.insight.id }}
                      className="block rounded-std border border-line bg-case px-4 py-3 hover:border-verdigris"
                    >
                      <span className="block font-read text-[16.5px] leading-snug font-semibold">{page.insight.headline}</span>
                      <span className="mt-1.5 flex flex-wrap items-center gap-3 text-[12.5px] text-ink-soft">
                        <Level of={page.facts.level} />
                        <PeopleStrip people={people} breadth={page.breadth} />
                        {ofPeople(page.facts.peopleFor, page.breadth.outOf)}
                        {page.facts.peopleAgainst > 0 && `, ${page.facts.peopleAgainst} ${page.facts.peopleAgainst === 1 ? 'says' : 'say'} otherwise`}
                      </span>
                    </Link>
                  </li>
                ))}
              </ul>
            )}
          </Part>
        </div>
        <div>
          <section aria-label="What to do next" className="rounded-std border border-line bg-case p-5">
            <p className="text-[12.5px] font-medium text-ink-soft">Next</p>
            <p className="mt-0.5 mb-3">{next.why}</p>
            <Link
              to={next.to}
              params={{ studyId }}
              className="inline-flex min-h-8 items-center rounded-std bg-verdigris px-3 text-[13px] font-medium text-on-verdigris"
            >
              {next.action}
            </Link>
            {(line.toLookAt > 0 || line.undecided > 0) && (
              <ul className="mt-3 space-y-1 border-t border-line pt-3 text-[13.5px]">
                {line.toLookAt > 0 && (
                  <li>
                    <Link to="/studies/$studyId/mark/to-look-at" params={{ studyId }} className="text-sky hover:underline">
                      {count(line.toLookAt, 'observation')} to look at after a correction
                    </Link>
                  </li>
                )}
                {line.undecided > 0 && (
                  <li>
                    <Link to="/intake" search={{ view: 'waiting', study: studyId }} className="text-sky hover:underline">
                      {count(line.undecided, 'piece of feedback', 'pieces of feedback')} to decide about
                    </Link>
                  </li>
                )}
              </ul>
            )}
          </section>
          <Part title="What is here">
            <dl className="grid grid-cols-[1fr_auto] gap-y-1">
              {study.kinds.map((k) => (
                <div key={k.kind} className="contents">
                  <dt>{kindWords[k.kind].many}</dt>
                  <dd className="text-right">{k.sources}</dd>
                </div>
              ))}
              {line.sessions > 0 && (
                <>
                  <dt className="border-t border-line pt-1">Sessions</dt>
                  <dd className="border-t border-line pt-1 text-right">{line.sessions}</dd>
                </>
              )}
              <dt className="border-t border-line pt-1">People</dt>
              <dd className="border-t border-line pt-1 text-right">{line.participants}</dd>
              <dt>Started</dt>
              <dd className="text-right">
                {line.sourcesBegun} of {line.sources}
              </dd>
            </dl>
          </Part>
          {people.length > 0 && (
            <Part title="Consent">
              <dl className="grid grid-cols-[1fr_auto] gap-y-1">
                {consents
                  .map((consent) => ({ consent, of: people.filter((p) => p.consent === consent) }))
                  .filter(({ of }) => of.length > 0)
                  .map(({ consent, of }) => (
                    <div key={consent} className="contents">
                      <dt>
                        {[consent, consentMeans[consent]].filter(Boolean).join(', ')}
                        {consent !== 'given' && of.length <= mostNamed && <span className="text-ink-soft"> ({of.map((p) => p.pseudonym).join(', ')})</span>}
                      </dt>
                      <dd className="text-right">{of.length}</dd>
                    </div>
                  ))}
              </dl>
            </Part>
          )}
          <Part title="Team">
            <StudyTeam studyId={studyId} />
          </Part>
          <Part title="Tags, by how many people">
            {widest.length === 0 && <p className="text-ink-soft">No tag is in use yet.</p>}
            <ul className="space-y-1.5">
              {widest.map((use) => (
                <li key={use.tag.id} className="flex items-center gap-2">
                  <TagDot look={look(use.tag.id)} />
                  <button type="button" className="min-h-6 truncate text-left hover:underline" onClick={() => open({ tagId: use.tag.id })}>
                    {use.tag.name}
                  </button>
                  <span className="ml-auto flex shrink-0 items-center gap-3 text-[12px] text-ink-soft">
                    <PeopleStrip people={people} breadth={use.breadth} onPick={(p) => open(ofPerson({ tagId: use.tag.id }, p))} />
                    <span className="w-[42px] text-right">
                      {use.breadth.triple.people} of {use.breadth.outOf}
                    </span>
                  </span>
                </li>
              ))}
            </ul>
          </Part>
        </div>
      </div>
      <Dialog open={changing} onOpenChange={setChanging} title="The study’s description" wide>
        <StudyForm
          text={{ title: line.title, purpose: line.purpose, method: line.method, researchQuestions: study.researchQuestions }}
          problem={change.error}
          save="Save"
          onSave={(text) => change.mutate(text, { onSuccess: () => setChanging(false) })}
          onCancel={() => setChanging(false)}
        />
      </Dialog>
    </div>
  );
}

function Part({ title, action, children }: { title: string; action?: ReactNode; children: ReactNode }) {
  return (
    <section className="mt-7" aria-label={title}>
      <div className="mb-2 flex min-h-8 items-center justify-between">
        <h2 className="text-[13px] font-semibold text-ink-soft">{title}</h2>
        {action}
      </div>
      {children}
    </section>
  );
}
