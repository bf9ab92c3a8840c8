import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

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
