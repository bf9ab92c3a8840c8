import type { ReactNode } from 'react';
import { Button, Key } from '../Button';
import { keysShown, noKey, type Action } from './actions';

interface Props<On> {
  action: Action<On>;
  on: On;
  look?: 'main' | 'plain' | 'quiet' | 'danger';
  className?: string;
  disabled?: boolean;
  /** What stands on it, where that says more than its name. */
  children?: ReactNode;
}

/** An action as a button, with its key. */
export function ActionButton<On>({ action, on, look = 'plain', className, disabled = false, children }: Props<On>) {
  return (
    <Button
      look={look}
      title={action.says}
      className={className}
      disabled={disabled || (action.when !== undefined && !action.when(on))}
      onClick={() => void action.run(on, noKey)}
    >
      {children ?? action.name} <ActionKey of={action} />
    </Button>
  );
}

/** The key of an action, in a sentence or on what does it. */
export function ActionKey<On>({ of }: { of: Pick<Action<On>, 'keys' | 'shown'> }) {
  const shown = keysShown(of);
  return shown === '' ? null : <Key>{shown}</Key>;
}
