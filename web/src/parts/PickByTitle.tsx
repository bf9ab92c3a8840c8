import { useState } from 'react';
import { Dialog } from './Dialog';
import { fold } from './findTags';

interface Pickable {
  id: string;
  title: string;
  /** What it is, where there are several kinds. */
  kind?: string;
  pick: () => void;
}

interface Props {
  /** What is done by picking. */
  title: string;
  /** What is picked. */
  label: string;
  items: readonly Pickable[];
  /** What is said when nothing is called as typed. */
  none: string;
  /** Makes one that is called as typed. */
  make?: { label: (typed: string) => string; act: (typed: string) => void };
  onClose: () => void;
}

/** The keyboard's way to something that has a title: type a part of it, Enter. */
export function PickByTitle({ title, label, items, none, make, onClose }: Props) {
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const fitting = items.filter((one) => fold(one.title).includes(fold(typed.trim())));
  const name = typed.trim();
  const fresh = make && name !== '' && !items.some((one) => fold(one.title) === fold(name));
  const shown = fresh ? [...fitting, { id: 'new', title: make.label(name), pick: () => make.act(name) }] : fitting;
  const pick = (one: Pickable | undefined) => {
    if (!one) return;
    one.pick();
    onClose();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={title}>
      <input
        role="combobox"
        aria-label={label}
        aria-expanded
        aria-controls="to-pick"
        aria-activedescendant={shown[at] ? `pick-${shown[at].id}` : undefined}
        autoFocus
        placeholder="Part of its title"
        value={typed}
        onChange={(e) => {
          setTyped(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt(Math.min(at + 1, shown.length - 1));
          else if (e.key === 'ArrowUp') setAt(Math.max(at - 1, 0));
          else if (e.key === 'Enter') pick(shown[at]);
          else return;
          e.preventDefault();
        }}
        className="w-full rounded-std border border-line bg-paper px-3 py-1.5"
      />
      <ul role="listbox" id="to-pick" aria-label={label} className="mt-2">
        {shown.map((one, i) => (
          <li
            key={one.id}
            id={`pick-${one.id}`}
            role="option"
            aria-selected={i === at}
            onMouseEnter={() => setAt(i)}
            onClick={() => pick(one)}
            className={`flex cursor-pointer items-baseline gap-3 rounded-[4px] px-3 py-1.5 ${i === at ? 'bg-wash' : ''}`}
          >
            <span className="font-read text-[15.5px]">{one.title}</span>
            {one.kind && <span className="ml-auto text-[12px] text-ink-soft">{one.kind}</span>}
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="px-3 py-2 text-ink-soft">{none}</p>}
    </Dialog>
  );
}
