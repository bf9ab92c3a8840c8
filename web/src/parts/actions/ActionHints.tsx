import { ActionKey } from './ActionButton';
import type { Action } from './actions';

const small = (name: string) => `${name[0]!.toLowerCase()}${name.slice(1).replace(/ …$/, '')}`;

/** Keys in a line, each with what it does. */
export function ActionHints({ of, className = '' }: { of: readonly Pick<Action<never>, 'name' | 'keys' | 'shown'>[]; className?: string }) {
  return (
    <span className={`inline-flex flex-wrap gap-x-4 gap-y-1 ${className}`}>
      {of.map((action) => (
        <span key={action.name}>
          <ActionKey of={action} /> {small(action.name)}
        </span>
      ))}
    </span>
  );
}
