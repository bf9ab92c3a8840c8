import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useParams } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { NewPasswordField, Problem, TextField } from '@/parts/Field';
import { roleWords } from '@/parts/words';

/** The other end of an invitation's link. */
export function JoinPage() {
  const { token } = useParams({ from: '/join/$token' });
  const { data: invitation, error } = useQuery(queries.joining(token));
  const cache = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState<string | null>(null);
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<Error | null>(null);
  if (!invitation) return <Waiting problem={error} />;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask(api.POST('/api/join/{token}', { params: { path: { token } }, body: { name: name ?? invitation.name, password } })).then(() => {
      cache.clear();
      return navigate({ to: '/' });
    }, setProblem);
  };
  return (
    <main className="mx-auto max-w-[440px] px-5 pt-[12vh]">
      <h1 className="font-read text-3xl font-semibold">Vitrine</h1>
      <p className="mt-1 mb-6 text-ink-soft">
        {invitation.invitedBy} invites you to work here as a {roleWords[invitation.role].one}. Choose a password, and you are in.
      </p>
      <form onSubmit={submit}>
        <Problem of={problem} />
        <TextField label="Your name" autoComplete="name" value={name ?? invitation.name} onChange={(e) => setName(e.target.value)} />
        <TextField label="E-mail address" readOnly autoComplete="username" value={invitation.email} />
        <NewPasswordField label="Password" autoFocus value={password} onChange={(e) => setPassword(e.target.value)} />
        <Button look="main" type="submit">
          Come in
        </Button>
      </form>
    </main>
  );
}
