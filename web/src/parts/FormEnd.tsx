import type { ReactNode } from 'react';
import { Button } from './Button';

interface Props {
  /** What the form's one action is called. */
  save: string;
  leave?: string;
  onLeave: () => void;
  busy?: boolean;
  /** For a thing that exists already: taking it away, with what goes with it in its words. */
  remove?: { label: string; act: () => void } | undefined;
  /** More to do with a thing that exists already, beside removing it. */
  children?: ReactNode;
}

/** The foot of a form: remove on the left, leave and save on the right. */
export function FormEnd({ save, leave = 'Not now', onLeave, busy = false, remove, children }: Props) {
  return (
    <div className="flex gap-2">
      {remove && (
        <Button look="danger" onClick={remove.act}>
          {remove.label}
        </Button>
      )}
      {children}
      <Button look="quiet" className="ml-auto" onClick={onLeave}>
        {leave}
      </Button>
      <Button look="main" type="submit" disabled={busy}>
        {save}
      </Button>
    </div>
  );
}
