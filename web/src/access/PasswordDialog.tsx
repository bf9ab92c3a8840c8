import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { api, ask } from '@/api/client';
import { Dialog } from '@/parts/Dialog';
import { NewPasswordField, Problem, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';

/** One's own password. */
export function PasswordDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [given, setGiven] = useState({ current: '', password: '' });
  const [problem, setProblem] = useState<Error | null>(null);
  const close = () => {
    setGiven({ current: '', password: '' });
    setProblem(null);
    onOpenChange(false);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask(api.PUT('/api/me/password', { body: given })).then(() => {
      toast('Your password is changed; every other sign-in has ended.');
      close();
    }, setProblem);
  };
  return (
    <Dialog
      open={open}
      onOpenChange={(now) => !now && close()}
      title="Change your password"
      intro="You stay signed in here and are signed out everywhere else."
    >
      <form onSubmit={submit}>
        <Problem of={problem} />
        <TextField
          label="Current password"
          type="password"
          autoComplete="current-password"
          value={given.current}
          onChange={(e) => setGiven({ ...given, current: e.target.value })}
        />
        <NewPasswordField label="New password" value={given.password} onChange={(e) => setGiven({ ...given, password: e.target.value })} />
        <FormEnd save="Change it" onLeave={close} />
      </form>
    </Dialog>
  );
}
