import { Dialog as Radix } from 'radix-ui';
import { useRef, useState, type FormEvent, type ReactNode } from 'react';

interface Shown {
  title: string;
  intro?: string;
  wide?: boolean;
  children: ReactNode;
}

/** Fields of a form that hold what somebody has typed. */
const written = 'form textarea, form input:not([type="checkbox"]):not([type="radio"]):not([type="search"]):not([type="file"])';

/** A dialog in the middle of the page. Escape closes it, and so does a click beside it. Focus returns to where it was (`keepFocus`). */
export function Dialog({ open, onOpenChange, ...shown }: Shown & { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-[rgb(20_25_26/0.35)]" />
        <Content {...shown} />
      </Radix.Portal>
    </Radix.Root>
  );
}

/** What was typed is not thrown away without a word: it is said once, and the second time the dialog closes. */
function Content({ title, intro, wide, children }: Shown) {
  const typed = useRef(false);
  const [warned, setWarned] = useState(false);
  const leaving = (event: { preventDefault: () => void }) => {
    if (!typed.current || warned) return;
    event.preventDefault();
    setWarned(true);
  };
  const wrote = (event: FormEvent<HTMLElement>) => {
    const field = event.target as HTMLElement;
    if (!field.matches(written)) return;
    typed.current = (field as HTMLInputElement | HTMLTextAreaElement).value.trim() !== '';
    setWarned(false);
  };
  return (
    <Radix.Content
      {...(intro ? {} : { 'aria-describedby': undefined })}
      onEscapeKeyDown={leaving}
      onPointerDownOutside={leaving}
      onInput={wrote}
      className={`fixed top-[8vh] left-1/2 z-50 max-h-[84vh] w-[94vw] -translate-x-1/2 animate-rise overflow-y-auto rounded-std border border-line bg-case p-6 shadow-float outline-none ${wide ? 'max-w-[760px]' : 'max-w-[520px]'}`}
    >
      <Radix.Title className="font-read text-xl font-semibold">{title}</Radix.Title>
      {intro && <Radix.Description className="mt-1 text-ink-soft">{intro}</Radix.Description>}
      {warned && (
        <p role="alert" className="sticky top-0 z-10 mt-3 rounded-std bg-brass-wash px-3 py-2">
          What you typed is not saved yet. Press Escape once more to leave it.
        </p>
      )}
      <div className="mt-4">{children}</div>
    </Radix.Content>
  );
}
