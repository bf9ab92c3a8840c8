import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useSearch } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { Problem, TextField } from '@/parts/Field';
import { roleWords } from '@/parts/words';

/** The first page: sign in, or set the workspace up, or step through the demo's door. */
export function SignInPage() {
  const { data: me, error } = useQuery({ ...queries.me(), refetchInterval: (query) => (query.state.data?.loading ? 1_000 : false) });
  const cache = useQueryClient();
  const navigate = useNavigate();
  const { then = '/' } = useSearch({ from: '/sign-in' });
  const [problem, setProblem] = useState<Error | null>(null);
  const [given, setGiven] = useState({ name: '', email: '', password: '' });
  if (!me) return <Waiting problem={error} />;

  const enter = (request: Promise<unknown>) =>
    void request
      .then(() => {
        cache.clear();
        // To the address that was asked for.
        return navigate({ href: then });
      })
      .catch(setProblem);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    enter(me.needsSteward ? ask(api.POST('/api/set-up', { body: { ...given, role: 'steward' } })) : ask(api.POST('/api/sign-in', { body: given })));
  };
  const field = (key: keyof typeof given) => ({
    value: given[key],
    onChange: (e: { target: { value: string } }) => setGiven({ ...given, [key]: e.target.value }),
  });
  return (
    <main className="mx-auto max-w-[440px] px-5 pt-[12vh]">
      <h1 className="font-read text-3xl font-semibold">Vitrine</h1>
      <p className="mt-1 mb-6 text-ink-soft">From what people said to what the team knows, with the words behind every claim.</p>
      <Problem of={problem} />
      {me.loading ? (
        <p role="status" className="rounded-std border border-line bg-case p-4">
          The demo workspace is being loaded. This takes some ten seconds; the people you can come in as appear here by themselves.
        </p>
      ) : me.demoAccounts.length > 0 ? (
        <section aria-label="Demo people">
          <h2 className="font-semibold">This is a demo with made-up people. Come in as</h2>
          <ul className="mt-3 space-y-2">
            {me.demoAccounts
              .filter((account) => account.role !== 'reader')
              .map((account) => (
                <li key={account.id}>
                  <Button
                    className="w-full justify-between !py-2"
                    onClick={() => enter(ask(api.POST('/api/demo/sign-in', { body: { accountId: account.id } })))}
                  >
                    <span className="font-semibold">{account.name}</span>
                    <span className="text-ink-soft">{roleWords[account.role].one}</span>
                  </Button>
                </li>
              ))}
          </ul>
          <p className="mt-4 text-[12.5px] text-ink-soft">No password is asked here. A real workspace, started with ./vitrine serve, has no such door.</p>
        </section>
      ) : (
        <form onSubmit={submit}>
          {me.needsSteward && <p className="mb-4">This workspace is new. You will be its steward: the person who runs it and invites the others.</p>}
          {me.needsSteward && <TextField label="Your name" autoComplete="name" {...field('name')} />}
          <TextField label="E-mail address" type="email" autoComplete="username" {...field('email')} />
          <TextField label="Password" type="password" autoComplete={me.needsSteward ? 'new-password' : 'current-password'} {...field('password')} />
          <Button look="main" type="submit">
            {me.needsSteward ? 'Set the workspace up' : 'Sign in'}
          </Button>
        </form>
      )}
    </main>
  );
}
