import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Empty, Waiting } from '@/parts/Empty';
import { Problem, TextArea, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { QuoteItem, whoIs } from '@/parts/QuoteItem';
import { PickByTitle } from '@/parts/PickByTitle';
import { count, day, ofPeople } from '@/parts/words';

type Proposal = Schemas['TagProposal'];
const answered: Record<NonNullable<Schemas['ProposalOutcome']>, string> = {
  accepted: 'accepted into the shared set',
  merged: 'merged',
  declined: 'left to its study',
};

/** What studies propose to the set that all share; the steward answers. */
export function ProposalsPage() {
  const { data: proposals, error } = useQuery(queries.tagProposals());
  const tags = useQuery(queries.tagSet()).data;
  const me = useQuery(queries.me()).data?.account;
  if (!proposals || !tags || !me) return <Waiting problem={error} />;
  const waiting = proposals.filter((o) => o.outcome === null);
  const done = proposals.filter((o) => o.outcome !== null);
  return (
    <main className="h-full overflow-y-auto border-t border-line">
      <div className="mx-auto max-w-[820px] px-6 py-8">
        <div className="flex items-baseline gap-4">
          <h1 className="font-read text-[22px] font-semibold">Proposed for the shared set</h1>
          <span className="text-ink-soft">{waiting.length > 0 && `${waiting.length} ${waiting.length === 1 ? 'waits' : 'wait'}`}</span>
          <Link to="/tags" className="ml-auto text-sky hover:underline">
            Tag set
          </Link>
        </div>
        {proposals.length === 0 && (
          <Empty title="Nothing was proposed" sample="“price of waiting”, from “Boarding without a car”">
            A tag of one study is proposed from its study’s tag set, when other studies may want it too.
          </Empty>
        )}
        <ul aria-label="Proposals that wait">
          {waiting.map((proposal) => (
            <Waits key={`${proposal.studyId} ${proposal.tagId}`} proposal={proposal} tags={tags} steward={me.role === 'steward'} />
          ))}
        </ul>
        {done.length > 0 && (
          <section aria-label="Answered" className="mt-8">
            <h2 className="border-b border-line pb-1 text-[13px] font-semibold">Answered</h2>
            <ul>
              {done.map((proposal) => (
                <li key={`${proposal.tagId} ${proposal.proposedAt}`} className="border-b border-line py-2 text-[13.5px]">
                  <span className="font-medium">{proposal.name}</span> <span className="text-ink-soft">of {proposal.study}:</span> {answered[proposal.outcome!]}
                  {proposal.outcome === 'merged' && ` into “${tags.find((t) => t.id === proposal.tagId)?.name ?? 'a tag that is gone'}”`} by{' '}
                  {proposal.answeredBy}.{proposal.answer !== '' && <span className="font-read"> {proposal.answer}</span>}
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </main>
  );
}

/** One proposal with what the steward needs to answer it. */
function Waits({ proposal, tags, steward }: { proposal: Proposal; tags: readonly Schemas['CountedTag'][]; steward: boolean }) {
  const { studyId, tagId } = proposal;
  const path = { studyId, tagId };
  const tag = tags.find((t) => t.id === tagId);
  const page = useQuery(queries.tagPage(studyId, tagId)).data;
  const told = useQuery(queries.tellingQuotes(studyId, tagId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people ?? [];
  const [doing, setDoing] = useState<'accept' | 'merge' | 'decline' | null>(null);
  const answer = useWrite(
    (body: Schemas['ProposalAnswer']) => ask(api.POST('/api/studies/{studyId}/tags/{tagId}/proposal/answer', { params: { path }, body })),
    {
      own: doing === 'accept' || doing === 'decline',
    },
  );
  const takeBack = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/tags/{tagId}/proposal', { params: { path } })));
  const close = () => {
    setDoing(null);
    answer.reset();
  };
  const quotes = told ? [...told.examples, ...told.telling.map((t) => t.quote)].slice(0, 3) : [];
  return (
    <li className="border-b border-line py-5">
      <p className="flex items-baseline gap-3">
        <Link to="/studies/$studyId/tags/$tagId" params={path} className="font-read text-[19px] font-semibold hover:underline">
          {tag?.name ?? proposal.name}
        </Link>
        <span className="text-[12.5px] text-ink-soft">
          of {proposal.study}, proposed by {proposal.proposedBy} on {day(proposal.proposedAt)}
        </span>
      </p>
      <p className="mt-0.5 font-read text-[16px]">{tag?.definition || <span className="text-brass">It has no definition yet.</span>}</p>
      {proposal.words !== '' && <p className="mt-1 text-[13.5px]">{proposal.words}</p>}
      {page && (
        <p className="mt-1 text-[13px] text-ink-soft">
          {ofPeople(page.breadth.triple.people, page.breadth.outOf)}, {count(page.breadth.triple.observations, 'observation')}
        </p>
      )}
      <ul className="mt-2 space-y-2 border-l-2 border-line pl-4">
        {quotes.map((quote) => (
          <li key={quote.observationId}>
            <QuoteItem quote={quote} who={whoIs(people)(quote.participantId)} studyId={studyId} />
          </li>
        ))}
      </ul>
      <div className="mt-3 flex gap-2">
        {steward ? (
          <>
            <Button look="main" onClick={() => setDoing('accept')}>
              Accept it …
            </Button>
            <Button onClick={() => setDoing('merge')}>Merge it into …</Button>
            <Button look="quiet" onClick={() => setDoing('decline')}>
              Leave it to its study …
            </Button>
          </>
        ) : (
          <Button look="quiet" onClick={() => takeBack.mutate()}>
            Withdraw the proposal
          </Button>
        )}
      </div>
      {doing === 'merge' && (
        <PickByTitle
          title={`Merge “${proposal.name}” into a shared tag`}
          label="Shared tag"
          none="No shared tag is called like that."
          items={tags
            .filter((t) => t.studyId === null)
            .map((t) => ({
              id: `${t.id}`,
              title: t.name,
              pick: () => answer.mutate({ outcome: 'merged', name: null, tagId: t.id, words: '' }, { onSuccess: close }),
            }))}
          onClose={() => setDoing(null)}
        />
      )}
      {(doing === 'accept' || doing === 'decline') && (
        <AnswerDialog
          outcome={doing === 'accept' ? 'accepted' : 'declined'}
          name={tag?.name ?? proposal.name}
          problem={answer.error}
          busy={answer.isPending}
          onAnswer={(body) => answer.mutate(body, { onSuccess: close })}
          onClose={close}
        />
      )}
    </li>
  );
}

interface AnswerProps {
  outcome: 'accepted' | 'declined';
  name: string;
  problem: Error | null;
  busy: boolean;
  onAnswer: (answer: Schemas['ProposalAnswer']) => void;
  onClose: () => void;
}

function AnswerDialog({ outcome, name, problem, busy, onAnswer, onClose }: AnswerProps) {
  const [called, setCalled] = useState(name);
  const [words, setWords] = useState('');
  const accepts = outcome === 'accepted';
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={accepts ? `Accept “${name}” into the shared set` : `Leave “${name}” to its study`}>
      <form
        className="space-y-4"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          onAnswer({ outcome, name: accepts ? called : null, tagId: null, words });
        }}
      >
        {accepts && <TextField label="What it is called from now on" value={called} onChange={(e) => setCalled(e.target.value)} />}
        <TextArea label={accepts ? 'A word to the study' : 'Why'} value={words} onChange={(e) => setWords(e.target.value)} rows={2} />
        <Problem of={problem} />
        <FormEnd save={accepts ? 'Accept it' : 'Leave it'} onLeave={onClose} busy={busy} />
      </form>
    </Dialog>
  );
}
