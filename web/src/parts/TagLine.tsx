import { X } from 'lucide-react';
import { useId, useMemo, useState, type KeyboardEvent } from 'react';
import { Key } from './Button';
import { findTags, fitsWell, sameName } from './findTags';
import { TagDot } from './TagLabel';
import type { TagLook, TagUse } from './tagLook';
import { count } from './words';

interface Props {
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  recent: readonly number[];
  /** The selected words, when a tag may be named with them. */
  words?: string | undefined;
  /** What was typed before, when the server refused it: nothing typed is lost. */
  before?: { tagIds: readonly number[]; newTags: readonly string[] } | undefined;
  onDone: (tagIds: number[], newTags: string[]) => void;
  onCancel: () => void;
}

type Picked = { id: number } | { name: string };
type Option = { kind: 'tag'; use: TagUse } | { kind: 'new'; name: string } | { kind: 'words'; name: string };

/** A tag named with the words themselves takes at most this many characters of them. */
export const longestOwnWords = 60;

/** The one-line field under a selection: type to filter, comma takes one and stays, Enter takes and files, Escape leaves. */
export function TagLine({ tags, look, recent, words, before, onDone, onCancel }: Props) {
  const list = useId();
  const [typed, setTyped] = useState(before?.newTags.at(-1) ?? '');
  const [picked, setPicked] = useState<Picked[]>([
    ...(before?.tagIds ?? []).map((id) => ({ id })),
    ...(before?.newTags.slice(0, -1) ?? []).map((name) => ({ name })),
  ]);
  const [at, setAt] = useState(0);
  const names = useMemo(
    () => tags.map((use) => ({ id: use.tag.id, name: use.tag.name, use })).toSorted((a, b) => b.use.breadth.triple.people - a.use.breadth.triple.people),
    [tags],
  );
  const options = useMemo<Option[]>(() => {
    const taken = new Set(picked.map((p) => ('id' in p ? p.id : -1)));
    const found = findTags(
      names.filter((n) => !taken.has(n.id)),
      typed,
      recent,
    ).map((n): Option => ({ kind: 'tag', use: n.use }));
    if (typed.trim() !== '' && !names.some((n) => sameName(n.name, typed))) {
      const well = found.filter((o) => o.kind === 'tag' && fitsWell(o.use.tag.name, typed)).length;
      found.splice(well, 0, { kind: 'new', name: typed.trim().replace(/\s+/g, ' ') });
    }
    if (typed === '' && words && words.length <= longestOwnWords) found.push({ kind: 'words', name: words });
    return found;
  }, [names, typed, recent, picked, words]);

  const asPicked = (option: Option): Picked => (option.kind === 'tag' ? { id: option.use.tag.id } : { name: option.name });
  const take = (option: Option) => {
    setPicked([...picked, asPicked(option)]);
    setTyped('');
    setAt(0);
  };
  const file = (all: Picked[]) =>
    onDone(
      all.flatMap((p) => ('id' in p ? [p.id] : [])),
      all.flatMap((p) => ('name' in p ? [p.name] : [])),
    );

  const keys = (event: KeyboardEvent<HTMLInputElement>) => {
    const chosen = options[at];
    const handled = () => {
      event.preventDefault();
      event.stopPropagation();
    };
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      handled();
      setAt((at + (event.key === 'ArrowDown' ? 1 : -1) + options.length) % Math.max(1, options.length));
    } else if (event.key === 'Enter' && event.shiftKey && typed.trim() !== '') {
      handled();
      file([...picked, { name: typed }]);
    } else if (event.key === 'Enter') {
      handled();
      const byChoice = typed.trim() !== '' || (at > 0 && picked.length === 0);
      file(chosen && byChoice ? [...picked, asPicked(chosen)] : picked);
    } else if (event.key === ',' && chosen) {
      handled();
      take(chosen);
    } else if (event.key === '"' && typed === '' && words) {
      handled();
      file([...picked, { name: words.slice(0, longestOwnWords) }]);
    } else if (event.key === 'Backspace' && typed === '') {
      setPicked(picked.slice(0, -1));
    } else if (event.key === 'Escape') {
      handled();
      onCancel();
    }
  };

  return (
    <div className="w-[430px] max-w-full animate-rise overflow-hidden rounded-std border border-line bg-case text-[13.5px] shadow-float" data-testid="tag-line">
      <div className="flex flex-wrap items-center gap-1.5 border-b border-line px-3 py-2">
        {picked.map((p, i) => (
          <span key={'id' in p ? p.id : p.name} className="inline-flex items-center gap-1 rounded-[4px] border border-line bg-paper px-1.5 py-px text-[12.5px]">
            {'id' in p ? <TagDot look={look(p.id)} /> : <span className="text-brass">new</span>}
            {'id' in p ? look(p.id).name : p.name}
            <button type="button" aria-label="Leave this tag out" className="size-5" onClick={() => setPicked(picked.filter((_, j) => j !== i))}>
              <X className="mx-auto size-3" />
            </button>
          </span>
        ))}
        <input
          autoFocus
          role="combobox"
          aria-label="Tags for this stretch"
          aria-expanded
          aria-controls={list}
          aria-activedescendant={options[at] ? `${list}-${at}` : undefined}
          placeholder={picked.length ? 'another, or Enter' : 'Name what you notice'}
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value);
            setAt(0);
          }}
          onKeyDown={keys}
          className="min-w-[120px] flex-1 bg-transparent outline-none"
        />
      </div>
      <ul role="listbox" id={list} aria-label="Tags that fit">
        {options.map((option, i) => (
          <li
            key={option.kind === 'tag' ? option.use.tag.id : option.kind}
            id={`${list}-${i}`}
            role="option"
            aria-selected={i === at}
            onMouseEnter={() => setAt(i)}
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => file([...picked, asPicked(option)])}
            className={`flex min-h-8 cursor-pointer items-center gap-2 px-3 ${i === at ? 'bg-wash' : ''} ${option.kind !== 'tag' ? 'border-t border-line text-ink-soft' : ''}`}
          >
            {option.kind === 'tag' ? (
              <>
                <TagDot look={look(option.use.tag.id)} />
                <span className="truncate">{option.use.tag.name}</span>
                <span className="ml-auto text-[12px] text-ink-soft">
                  {recent.includes(option.use.tag.id) && typed === ''
                    ? 'used just now'
                    : option.use.breadth.triple.people > 0 && count(option.use.breadth.triple.people, 'person', 'people')}
                </span>
              </>
            ) : option.kind === 'new' ? (
              <>
                <span className="truncate">New draft tag “{option.name}”</span>
                <span className="ml-auto">
                  <Key>Shift Enter</Key>
                </span>
              </>
            ) : (
              <>
                <span className="truncate">In their words: “{option.name}”</span>
                <span className="ml-auto">
                  <Key>{'"'}</Key>
                </span>
              </>
            )}
          </li>
        ))}
      </ul>
      <p className="border-t border-line px-3 py-1.5 text-[11.5px] text-ink-soft">
        <Key>Enter</Key> files it · <Key>,</Key> adds another · <Key>Esc</Key> leaves
      </p>
    </div>
  );
}
