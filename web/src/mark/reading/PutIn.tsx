import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { queries } from '@/api/queries';
import { Dialog } from '@/parts/Dialog';
import { fold } from '@/parts/findTags';
import type { Onto } from './dragging';

/** The keys' way into a theme or an insight: type a part of its title, Enter. */
export function PutIn({ studyId, onto, onClose }: { studyId: number; onto: Pick<Onto, 'theme' | 'insight'>; onClose: () => void }) {
  const themes = useQuery(queries.sorting(studyId)).data?.themes ?? [];
  const insights = useQuery(queries.insights(studyId)).data ?? [];
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const all = [
    ...themes.map((t) => ({ id: `theme-${t.theme.id}`, kind: 'Theme', title: t.theme.title, put: () => onto.theme(t.theme.id) })),
    ...insights.map((i) => ({ id: `insight-${i.insight.id}`, kind: 'Insight', title: i.insight.headline, put: () => onto.insight(i.insight.id) })),
  ];
  const shown = all.filter((one) => fold(one.title).includes(fold(typed)));
  const put = (one: (typeof all)[number] | undefined) => {
    if (!one) return;
    one.put();
    onClose();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Put it in a theme or an insight">
      <input
        role="combobox"
        aria-label="Theme or insight"
        aria-expanded
        aria-controls="put-in"
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
      <ul role="listbox" id="put-in" aria-label="Themes and insights" className="mt-2">
        {shown.map((one, i) => (
          <li
            key={one.id}
            id={`put-in-${one.id}`}
            role="option"
            aria-selected={i === at}
            onMouseEnter={() => setAt(i)}
            onClick={() => put(one)}
            className={`flex cursor-pointer items-baseline gap-3 rounded-[4px] px-3 py-1.5 ${i === at ? 'bg-wash' : ''}`}
          >
            <span className="font-read text-[15.5px]">{one.title}</span>
            <span className="ml-auto text-[12px] text-ink-soft">{one.kind}</span>
          </li>
        ))}
        {all.length === 0 && <li className="px-3 py-1.5 text-ink-soft">There is no theme and no insight in this study yet.</li>}
        {all.length > 0 && shown.length === 0 && <li className="px-3 py-1.5 text-ink-soft">None is called like that.</li>}
      </ul>
    </Dialog>
  );
}
