import { useId, useLayoutEffect, useRef, useState, type KeyboardEvent } from 'react';
import type { Schemas } from '@/api/client';
import { Key } from '@/parts/Button';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { clock } from '@/parts/words';
import { completed, offered, tagAt } from './tagTyped';

interface Props {
  tags: readonly Schemas['Tag'][];
  look: (id: number) => TagLook;
  /** Milliseconds since the notes began. */
  now: () => number;
  onLine: (typed: string, beginMs: number, endMs: number) => void;
}

const hasWords = (typed: string) => /[\p{L}\p{N}]/u.test(typed.replace(/(^|\s)#\S+/gu, ''));

/** The next line: its time is when its first letter was typed, Enter stamps it. After a # the tags that fit are offered. */
export function LineField({ tags, look, now, onLine }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const list = useId();
  const [line, setLine] = useState({ text: '', caret: 0 });
  const [begun, setBegun] = useState<number | null>(null);
  const [chosen, choose] = useState(0);
  const [shut, setShut] = useState(false);
  const [said, say] = useState('');
  const at = tagAt(line.text, line.caret);
  const offers = at && !shut ? offered(tags, at.typed) : [];
  useLayoutEffect(() => {
    field.current?.setSelectionRange(line.caret, line.caret);
  }, [line]);
  const take = (text: string, caret: number) => {
    setLine({ text, caret });
    setBegun(text === '' ? null : (begun ?? now()));
    choose(0);
    setShut(false);
    say('');
  };
  const complete = (which: number) => {
    const offer = offers[which];
    if (!at || !offer) return line.text;
    const written = completed(line.text, at, offer.slug);
    take(written.text, written.caret);
    return written.text;
  };
  const stamp = () => {
    // A tag that is being typed is the one that is offered first or was chosen; a # alone is none.
    const typed = offers.length > 0 && at!.typed !== '' ? complete(chosen) : line.text;
    if (!hasWords(typed)) return say(typed.trim() === '' ? '' : 'A line needs words beside its tags.');
    onLine(typed.trim(), begun ?? now(), now());
    setLine({ text: '', caret: 0 });
    setBegun(null);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.nativeEvent.isComposing) return;
    const { key } = event;
    if (key === 'Enter') stamp();
    else if (offers.length === 0) return;
    else if (key === 'Tab' && !event.shiftKey) complete(chosen);
    else if (key === 'ArrowDown') choose((chosen + 1) % offers.length);
    else if (key === 'ArrowUp') choose((chosen + offers.length - 1) % offers.length);
    else if (key === 'Escape') setShut(true);
    else return;
    event.preventDefault();
  };
  return (
    <div className="relative mt-3 flex items-center gap-3 rounded-std border border-line bg-case pr-3 pl-1 focus-within:border-verdigris">
      <span className="w-[52px] shrink-0 text-right text-[13px] font-semibold text-verdigris tabular-nums">{begun === null ? '' : clock(begun)}</span>
      <input
        ref={field}
        autoFocus
        role="combobox"
        aria-label="The next line"
        aria-expanded={offers.length > 0}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={offers.length > 0 ? `${list}-${chosen}` : undefined}
        placeholder="Write what you see and hear"
        autoComplete="off"
        value={line.text}
        onChange={(e) => take(e.target.value, e.target.selectionStart ?? e.target.value.length)}
        onSelect={(e) => {
          const { selectionStart, selectionEnd, value } = e.currentTarget;
          if (selectionStart !== null && selectionStart === selectionEnd && selectionStart !== line.caret) setLine({ text: value, caret: selectionStart });
        }}
        onKeyDown={keys}
        className="min-h-11 flex-1 bg-transparent font-read text-[17px] outline-none placeholder:text-ink-soft/80"
      />
      {said && (
        <span role="alert" className="text-[12.5px] text-oxblood">
          {said}
        </span>
      )}
      <ul
        id={list}
        role="listbox"
        aria-label="Tags"
        hidden={offers.length === 0}
        className="absolute bottom-[calc(100%+6px)] left-[64px] z-30 w-[340px] overflow-hidden rounded-std border border-line bg-case shadow-float"
      >
        {offers.map((offer, i) => (
          <li
            key={offer.slug}
            id={`${list}-${i}`}
            role="option"
            aria-selected={i === chosen}
            onMouseDown={(e) => {
              e.preventDefault();
              complete(i);
            }}
            className={`flex min-h-8 cursor-pointer items-center gap-2 px-3 ${i === chosen ? 'bg-wash' : ''}`}
          >
            {offer.id === null ? (
              <span className="text-ink-soft">New draft tag “{offer.name}”</span>
            ) : (
              <>
                <TagDot look={look(offer.id)} /> {offer.name}
              </>
            )}
            {i === chosen && (
              <span className="ml-auto">
                <Key>Tab</Key>
              </span>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
