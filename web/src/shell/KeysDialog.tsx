import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { keysShown, type Action, type Group } from '@/parts/actions/actions';
import { announced } from '@/parts/actions/registry';
import { Key } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { fold } from '@/parts/findTags';

const groups: readonly [Group, string][] = [
  ['move', 'Move'],
  ['mark', 'Mark and change'],
  ['look', 'Look'],
  ['go', 'Go'],
];
const small = (words: string) => `${words[0]!.toLowerCase()}${words.slice(1)}`;

/** What keys do on the page that is open, by what they are for. */
export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keys of this page" wide>
      <Keys onLeave={() => onOpenChange(false)} />
    </Dialog>
  );
}

function Keys({ onLeave }: { onLeave: () => void }) {
  const [lists] = useState(announced);
  const [typed, setTyped] = useState('');
  const words = fold(typed.trim()).split(/\s+/);
  const fits = (action: Action<never>) => {
    const said = fold(`${action.name} ${action.says ?? ''} ${action.also ?? ''} ${keysShown(action)}`);
    return keysShown(action) !== '' && words.every((word) => said.includes(word));
  };
  const shown = lists.map(({ title, actions }) => ({ title, actions: actions.map((a) => a.action).filter(fits) })).filter(({ actions }) => actions.length > 0);
  return (
    <>
      <input
        autoFocus
        type="search"
        aria-label="Find a key"
        placeholder="Find a key by what it does"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        className="mb-4 w-full rounded-std border border-line bg-paper px-2.5 py-1 placeholder:text-ink-soft"
      />
      <p className="-mt-2 mb-4 text-[12.5px] text-ink-soft">
        How things are done is told in the{' '}
        <Link to="/help" className="text-sky hover:underline" onClick={onLeave}>
          help
        </Link>
        .
      </p>
      {shown.length === 0 && <p className="text-ink-soft">No key of this page does that. Ctrl K also finds what has no key.</p>}
      {shown.map(({ title, actions }) => (
        <section key={title} className="mb-5">
          <h3 className="mb-2 border-b border-line pb-1 font-semibold">{title}</h3>
          <div className="columns-2 gap-8">
            {groups
              .map(([group, called]) => ({ called, of: actions.filter((a) => a.group === group) }))
              .filter(({ of }) => of.length > 0)
              .map(({ called, of }) => (
                <section key={called} aria-label={`${title}: ${called}`} className="mb-3">
                  <h4 className="mb-1 break-after-avoid text-[12px] text-ink-soft">{called}</h4>
                  <dl className="space-y-1 text-[13px]">
                    {of.map((action) => (
                      <div key={action.name} className="grid break-inside-avoid grid-cols-[92px_1fr] items-baseline">
                        <dt>
                          <Key>{keysShown(action)}</Key>
                        </dt>
                        <dd>{small(action.says ?? action.name)}</dd>
                      </div>
                    ))}
                  </dl>
                </section>
              ))}
          </div>
        </section>
      ))}
    </>
  );
}
