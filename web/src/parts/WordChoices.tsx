import { Popover } from 'radix-ui';
import { Fragment, useState, type ReactNode } from 'react';
import { fold } from './findTags';
import { TagDot } from './TagLabel';
import type { TagLook } from './tagLook';

/** A word of the line that opens its choices. */
export function Word({ label, set, children }: { label: string; set: boolean; children: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        className={`min-h-6 underline decoration-dotted underline-offset-4 hover:text-ink hover:decoration-solid ${set ? 'font-semibold text-ink' : ''}`}
      >
        {label}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={12}
          className="z-40 max-h-[360px] w-[260px] animate-rise overflow-y-auto rounded-std border border-line bg-case p-2 text-[13px] shadow-float"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** One of several choices behind a word. */
export function Box({ label, on, onChange, children }: { label: string; on: boolean; onChange: () => void; children?: ReactNode }) {
  return (
    <label className="flex min-h-7 cursor-pointer items-center gap-2 rounded-[4px] px-1.5 hover:bg-wash">
      <input type="checkbox" checked={on} onChange={onChange} className="size-4 shrink-0 accent-verdigris" />
      {children}
      <span className="truncate">{label}</span>
    </label>
  );
}

export interface Choice {
  key: string;
  label: string;
  on: boolean;
  onChange: () => void;
  /** Choices of one group stand together under its name. */
  group?: string;
  look?: TagLook;
}

/** With more choices than these, they can be searched by typing; and so many are offered at once. */
const searched = 12;
const mostOffered = 120;

/** Several choices behind a word, in groups; long lists are searched by typing. What is set otherwise stands before them. */
export function Choices({ find, choices, children }: { find: string; choices: readonly Choice[]; children?: ReactNode }) {
  const [typed, setTyped] = useState('');
  const fitting = choices.filter((c) => fold(`${c.group ?? ''} ${c.label}`).includes(fold(typed)));
  const offered = fitting.slice(0, mostOffered);
  return (
    <>
      {choices.length > searched && (
        <input
          aria-label={find}
          placeholder={find}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="mb-1 w-full rounded-std border border-line bg-paper px-2 py-1 placeholder:text-ink-soft"
        />
      )}
      {typed === '' && children}
      {offered.map((c, i) => (
        <Fragment key={c.key}>
          {c.group !== undefined && c.group !== offered[i - 1]?.group && <p className="mt-1.5 px-1.5 text-[11.5px] text-ink-soft">{c.group}</p>}
          <Box label={c.label} on={c.on} onChange={c.onChange}>
            {c.look && <TagDot look={c.look} />}
          </Box>
        </Fragment>
      ))}
      {fitting.length > offered.length && <p className="px-1.5 py-1 text-ink-soft">{fitting.length - offered.length} more; type to find one</p>}
      {fitting.length === 0 && <p className="px-1.5 py-1 text-ink-soft">Nothing fits “{typed}”.</p>}
    </>
  );
}
