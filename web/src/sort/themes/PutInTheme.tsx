import { useState } from 'react';
import type { Schemas } from '@/api/client';
import { Dialog } from '@/parts/Dialog';
import { fold } from '@/parts/findTags';

interface Props {
  themes: readonly Schemas['Theme'][];
  what: string;
  onClose: () => void;
  onPut: (themeId: number) => void;
}

/** The keyboard's way into a theme: type a part of its title, Enter. */
export function PutInTheme({ themes, what, onClose, onPut }: Props) {
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const shown = themes.filter((t) => fold(t.title).includes(fold(typed)));
  const put = (theme: Schemas['Theme'] | undefined) => {
    if (!theme) return;
    onPut(theme.id);
    onClose();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Put ${what} in a theme`}>
      <input
        role="combobox"
        aria-label="Theme"
        aria-expanded
        aria-controls="themes-to-put-in"
        aria-activedescendant={shown[at] ? `put-in-${shown[at].id}` : undefined}
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
          else if (e.key === 'Enter') put(shown[at]);
          else return;
          e.preventDefault();
        }}
        className="w-full rounded-std border border-line bg-paper px-3 py-1.5"
      />
      <ul role="listbox" id="themes-to-put-in" aria-label="Themes" className="mt-2">
        {shown.map((theme, i) => (
          <li
            key={theme.id}
            id={`put-in-${theme.id}`}
            role="option"
            aria-selected={i === at}
            onMouseEnter={() => setAt(i)}
            onClick={() => put(theme)}
            className={`cursor-pointer rounded-[4px] px-3 py-1.5 font-read text-[15.5px] ${i === at ? 'bg-wash' : ''}`}
          >
            {theme.title}
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="px-3 py-2 text-ink-soft">No theme is called that. Make a new one of what is chosen instead.</p>}
    </Dialog>
  );
}
