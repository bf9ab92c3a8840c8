import { useEffect, useRef, useState } from 'react';

interface Props {
  label: string;
  value: string;
  placeholder?: string;
  className: string;
  rows?: number;
  /** Saves; answers whether it was taken. */
  save: (value: string) => Promise<boolean>;
}

const pause = 900;

/** A text that saves itself when the typing pauses or ends, and says so. What could not be saved stays in the field. */
export function AutoText({ label, value, placeholder, className, rows = 1, save }: Props) {
  const [text, setText] = useState(value);
  const [state, setState] = useState<'saved' | 'typing' | 'saving' | 'not saved'>('saved');
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const field = useRef<HTMLTextAreaElement>(null);
  const [from, setFrom] = useState(value);
  if (value !== from) {
    // Someone else, or an undo, has changed it while nothing was being typed here.
    setFrom(value);
    if (state === 'saved') setText(value);
  }
  const run = async (now: string) => {
    clearTimeout(timer.current);
    if (now === from) return setState('saved');
    setState('saving');
    setState((await save(now)) ? 'saved' : 'not saved');
  };
  useEffect(() => {
    const el = field.current;
    if (!el) return;
    el.style.height = 'auto';
    el.style.height = `${el.scrollHeight + 2}px`;
  }, [text]);
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <div className="relative">
      <textarea
        ref={field}
        aria-label={label}
        rows={rows}
        value={text}
        placeholder={placeholder}
        onChange={(e) => {
          const now = e.target.value;
          setText(now);
          setState('typing');
          clearTimeout(timer.current);
          timer.current = setTimeout(() => void run(now), pause);
        }}
        onBlur={() => void run(text)}
        className={`-mx-2 block w-[calc(100%+16px)] resize-none rounded-std border border-transparent bg-transparent px-2 py-1 placeholder:text-ink-soft hover:border-line focus:border-line focus:bg-case ${className}`}
      />
      <span role="status" className={`absolute right-0 -bottom-4 text-[11px] ${state === 'not saved' ? 'text-oxblood' : 'text-ink-soft'}`}>
        {{ saved: '', typing: 'typing', saving: 'saving …', 'not saved': 'not saved yet: your text is still here' }[state]}
      </span>
    </div>
  );
}
