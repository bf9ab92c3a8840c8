import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  intro?: string;
  wide?: boolean;
  children: ReactNode;
}

/** A dialog in the middle of the page. Escape closes it; focus returns to where it was. */
export function Dialog({ open, onOpenChange, title, intro, wide, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-[rgb(20_25_26/0.35)]" />
        <Radix.Content
          {...(intro ? {} : { 'aria-describedby': undefined })}
          className={`fixed top-[8vh] left-1/2 z-50 max-h-[84vh] w-[94vw] -translate-x-1/2 animate-rise overflow-y-auto rounded-std border border-line bg-case p-6 shadow-float outline-none ${wide ? 'max-w-[760px]' : 'max-w-[520px]'}`}
        >
          <Radix.Title className="font-read text-xl font-semibold">{title}</Radix.Title>
          {intro && <Radix.Description className="mt-1 text-ink-soft">{intro}</Radix.Description>}
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
