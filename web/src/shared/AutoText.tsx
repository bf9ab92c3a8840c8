import { useEffect, useRef, useState } from 'react';
import { outgoing } from '@/api/waiting/outgoing';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import type { TextAddress } from '@/api/waiting/writeTo';
import { TwoVersions } from './TwoVersions';

interface Props {
  label: string;
  /** What the server has. */
  value: string;
  /** Where it is saved: the address of this one text. */
  path: TextAddress;
  /** What it is, in words, for the list of what waits. */
  what: string;
  placeholder?: string;
  className: string;
  rows?: number;
  /** Where keys go on; Enter and Escape lead there, and the text is saved. */
  onLeave?: () => void;
}

const pause = 900;

/**
 * A text that saves itself when the typing pauses or ends, and says so. Every letter is kept in the browser at once; what cannot be sent waits there.
 * When someone else has written it meanwhile, both versions are shown.
 */
export function AutoText({ label, value, path, what, placeholder, className, rows = 1, onLeave }: Props) {
  const { waiting, way } = useOutgoing();
  const [typed, setTyped] = useState(false);
  const field = useRef<HTMLTextAreaElement>(null);
  const mine = waiting.findLast((w) => w.field === path);
  const clash = waiting.find((w) => w.field === path && w.clash);
  const text = mine?.text?.now ?? value;
  const take = (now: string, after: number) => void outgoing.type(path, path, what, value, now, after);
  useEffect(() => {
    const el = field.current;
    if (!el) return;
    el.style.height = 'auto';
    el.style.height = `${el.scrollHeight + 2}px`;
  }, [text]);
  const state = clash ? '' : !mine ? (typed ? 'saved' : '') : way === 'open' ? 'saving …' : 'kept in this browser, not sent yet';
  return (
    <div className="relative">
      <textarea
        ref={field}
        aria-label={label}
        rows={rows}
        value={text}
        placeholder={placeholder}
        onChange={(e) => {
          setTyped(true);
          take(e.target.value, pause);
        }}
        onKeyDown={(e) => {
          if (!onLeave || (e.key !== 'Enter' && e.key !== 'Escape') || e.nativeEvent.isComposing) return;
          e.preventDefault();
          e.stopPropagation();
          onLeave();
        }}
        onBlur={() => {
          if (mine && !clash && mine.notBefore > Date.now()) take(text, 0);
        }}
        className={`-mx-2 block w-[calc(100%+16px)] resize-none rounded-std border border-transparent bg-transparent px-2 py-1 placeholder:text-ink-soft hover:border-line focus:border-line focus:bg-case ${className}`}
      />
      <span role="status" className={`absolute right-0 -bottom-5 text-[11px] ${mine && way !== 'open' ? 'text-brass' : 'text-ink-soft'}`}>
        {state}
      </span>
      {clash && <TwoVersions of={clash} />}
    </div>
  );
}
