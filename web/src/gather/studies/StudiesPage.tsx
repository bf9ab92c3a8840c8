import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Empty, Waiting } from '@/parts/Empty';
import { count, day } from '@/parts/words';
import { StudyForm } from './StudyForm';

/** Every study, the one worked on last first. */
export function StudiesPage() {
  const navigate = useNavigate();
  const { data: studies, error } = useQuery(queries.studies());
  const { make: making = false } = useSearch({ from: '/team/' });
  const setMaking = (on: boolean) => void navigate({ to: '/', search: on ? { make: true } : {} });
  const [typed, setTyped] = useState('');
  const make = useWrite((text: Schemas['StudyText']) => ask(api.POST('/api/studies', { body: text })), { own: true });
  if (!studies) return <Waiting problem={error} />;
  const shown = studies.filter((s) => `${s.title} ${s.purpose}`.toLowerCase().includes(typed.toLowerCase()));
  return (
    <main className="h-full overflow-y-auto border-t border-line">
      <div className="mx-auto max-w-[940px] px-6 py-8">
        <div className="mb-5 flex items-center gap-4">
          <h1 className="font-read text-3xl font-semibold">Studies</h1>
          {studies.length > 3 && (
            <input
              aria-label="Find a study"
              placeholder="Find a study"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
              className="ml-auto w-56 rounded-std border border-line bg-case px-3 py-1.5"
            />
          )}
          <Button look="main" className={studies.length > 3 ? '' : 'ml-auto'} onClick={() => setMaking(true)}>
            New study
          </Button>
        </div>
        {studies.length === 0 && (
          <Empty title="Nothing is being studied yet" sample="“Boarding without a car: how foot passengers buy, board and cope with changes.”">
            A study holds the sessions, people and findings of one piece of research. Begin with its title and the questions it must answer.
          </Empty>
        )}
        <ul className="space-y-4">
          {shown.map((study) => (
            <StudyRow key={study.id} study={study} />
          ))}
        </ul>
      </div>
      <Dialog open={making} onOpenChange={setMaking} title="New study" intro="A title is enough to begin; the rest can be written as it becomes clear." wide>
        <StudyForm
          problem={make.error}
          save="Make the study"
          onSave={(text) => make.mutate(text, { onSuccess: (step) => void navigate({ to: '/studies/$studyId', params: { studyId: step.id! } }) })}
          onCancel={() => setMaking(false)}
        />
      </Dialog>
    </main>
  );
}

function StudyRow({ study }: { study: Schemas['StudyLine'] }) {
  const stages = [
    { word: count(study.sources, 'source'), share: study.sources > 0 ? study.sourcesBegun / study.sources : 0, note: `${study.sourcesBegun} started` },
    { word: count(study.observations, 'observation'), share: study.observations > 0 ? 1 : 0, note: '' },
    { word: count(study.themes, 'theme'), share: study.themes > 0 ? 1 : 0, note: '' },
    { word: count(study.insights, 'insight'), share: study.insights > 0 ? 1 : 0, note: '' },
  ];
  return (
    <li>
      <Link to="/studies/$studyId" params={{ studyId: study.id }} className="block rounded-std border border-line bg-case px-6 py-5 hover:border-verdigris">
        <span className="flex items-baseline gap-4">
          <span className="font-read text-[21px] leading-snug font-semibold">{study.title}</span>
          <span className="ml-auto shrink-0 text-[12.5px] text-ink-soft">worked on {day(study.workedOnAt)}</span>
        </span>
        {study.purpose && <span className="mt-1 line-clamp-2 block max-w-[68ch] font-read text-[15px] text-ink-soft">{study.purpose}</span>}
        <span className="mt-4 grid grid-cols-[auto_repeat(4,1fr)] items-end gap-5 text-[12.5px]">
          <span className="text-ink-soft">{count(study.participants, 'person', 'people')}</span>
          {stages.map((stage) => (
            <span key={stage.word} title={stage.note}>
              {stage.word}
              <span aria-hidden className="mt-1.5 block h-[3px] rounded-full bg-line">
                <span className="block h-full rounded-full bg-verdigris" style={{ width: `${stage.share * 100}%` }} />
              </span>
            </span>
          ))}
        </span>
      </Link>
    </li>
  );
}
