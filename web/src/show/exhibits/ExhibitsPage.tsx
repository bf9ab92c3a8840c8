import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Empty, Waiting } from '@/parts/Empty';
import { Problem, TextField } from '@/parts/Field';
import { count, day } from '@/parts/words';

/** Every exhibit of the workspace: a page that answers one question, for people who were not in the room. */
export function ExhibitsPage() {
  const { data: exhibits, error } = useQuery(queries.exhibits());
  const [making, setMaking] = useState(false);
  const [question, setQuestion] = useState('');
  const navigate = useNavigate();
  const make = useWrite(() => ask(api.POST('/api/exhibits', { body: { question, summary: '' } })), { own: true });
  if (!exhibits) return <Waiting problem={error} />;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate(undefined, { onSuccess: (step) => void navigate({ to: '/exhibits/$exhibitId', params: { exhibitId: step.id! } }) });
  };
  const begin = (
    <Button look="main" onClick={() => setMaking(true)}>
      New exhibit
    </Button>
  );
  return (
    <main className="h-full overflow-y-auto border-t border-line">
      <div className="mx-auto max-w-[940px] px-6 py-8">
        <div className="mb-5 flex items-center justify-between">
          <h1 className="font-read text-3xl font-semibold">Exhibits</h1>
          {exhibits.length > 0 && begin}
        </div>
        {exhibits.length === 0 && (
          <Empty title="Nothing on show yet" sample="“What happens to foot passengers when a sailing is cancelled?”" action={begin}>
            An exhibit answers one question with insights from any study. It is read by a link, needs no account, and stays current.
          </Empty>
        )}
        <ul className="space-y-3">
          {exhibits.map((exhibit) => (
            <li key={exhibit.id}>
              <Link
                to="/exhibits/$exhibitId"
                params={{ exhibitId: exhibit.id }}
                className="block rounded-std border border-line bg-case px-6 py-4 hover:border-verdigris"
              >
                <span className="block font-read text-[20px] leading-snug font-semibold">{exhibit.question}</span>
                <span className="mt-1 block text-[13px] text-ink-soft">
                  {count(exhibit.insights, 'insight')}, {exhibit.openLinks > 0 ? `published by ${count(exhibit.openLinks, 'link')}` : 'not published'}, changed{' '}
                  {day(exhibit.updatedAt)}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </div>
      <Dialog open={making} onOpenChange={setMaking} title="New exhibit" intro="Which question of the product team does it answer?">
        <form onSubmit={submit}>
          <Problem of={make.error} />
          <TextField label="Question" autoFocus value={question} onChange={(e) => setQuestion(e.target.value)} />
          <div className="flex justify-end">
            <Button look="main" type="submit">
              Make the exhibit
            </Button>
          </div>
        </form>
      </Dialog>
    </main>
  );
}
