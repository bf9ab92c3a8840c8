import { X } from 'lucide-react';
import { useId, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { inTreeOrder, isBundle } from './bundles';
import { Key } from './Button';
import { aliasThatFits, findTags, fitsWell, isCalled, readTyped, tellingPhrase, withColour } from './findTags';
import { onScale } from './scale';
import { TagDot } from './TagLabel';
import { hue, hues, type TagLook, type TagUse } from './tagLook';
import { count } from './words';

interface Props {
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  recent: readonly number[];
  /** Tags of marks near this place, nearest first. */
  near?: readonly number[];
  /** The selected words, when a tag may be named with them. */
  words?: string | undefined;
  /** What was typed before, when the server refused it: nothing typed is lost. */
  before?: { tagIds: readonly number[]; newTags: readonly string[] } | undefined;
  /** Values are asked for where they can be given: of tags with a scale. */
  onDone: (tagIds: number[], newTags: string[], values: [tagId: number, value: number][]) => void;
  asksValues?: boolean;
  onCancel: () => void;
}

type Picked = { id: number } | { name: string };
type Option = { kind: 'tag'; use: TagUse } | { kind: 'bundle'; use: TagUse } | { kind: 'new'; name: string } | { kind: 'words'; name: string };

/** What is being asked of the tags with a scale, one after the other. */
interface Asking {
  all: Picked[];
  /** Tags whose value is still to be asked. */
  left: number[];
  values: [number, number][];
}

const none: readonly number[] = [];

/** The palette: reached by Tab, moved in by arrows; a colour that is chosen again is taken back. */
function Colours({ at, onPick }: { at: number | null; onPick: (colour: number | null) => void }) {
  return (
    <div role="group" aria-label="Colour of the new tag" className="flex items-center gap-1 border-t border-line px-3 py-1.5">
      {Array.from({ length: hues }, (_, n) => (
        <button
          key={n}
          type="button"
          tabIndex={n === (at ?? 0) ? 0 : -1}
          aria-label={`Colour ${n + 1}`}
          aria-pressed={at === n}
          className="grid size-6 place-items-center rounded-full"
          onClick={() => onPick(at === n ? null : n)}
          onKeyDown={(e) => {
            const to = e.key === 'ArrowRight' ? e.currentTarget.nextElementSibling : e.key === 'ArrowLeft' ? e.currentTarget.previousElementSibling : null;
            if (to instanceof HTMLElement) {
              e.preventDefault();
              to.focus();
            }
          }}
        >
          <span aria-hidden className={`size-3.5 rounded-full ${at === n ? 'outline-2 outline-offset-2 outline-ink' : ''}`} style={{ background: hue(n) }} />
        </button>
      ))}
      <span className="ml-auto text-[11.5px] text-ink-soft">
        <Key>Tab</Key> colour
      </span>
    </div>
  );
}

/** The one-line field under a selection: type to filter, comma takes one and stays, Enter takes and files, Escape leaves. */
export function TagLine({ tags, look, recent, near = none, words, before, onDone, asksValues = false, onCancel }: Props) {
  const list = useId();
  const input = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState(before?.newTags.at(-1) ?? '');
  const [picked, setPicked] = useState<Picked[]>([
    ...(before?.tagIds ?? []).map((id) => ({ id })),
    ...(before?.newTags.slice(0, -1) ?? []).map((name) => ({ name })),
  ]);
  const [at, setAt] = useState(0);
  const [asking, setAsking] = useState<Asking | null>(null);
  /** The bundle whose tags are offered. */
  const [within, setWithin] = useState<TagUse | null>(null);
  const called = useMemo(
    () =>
      tags
        .map((use) => ({ id: use.tag.id, name: use.tag.name, aliases: use.tag.aliases, use }))
        .toSorted((a, b) => b.use.breadth.triple.people - a.use.breadth.triple.people),
    [tags],
  );
  // A bundle is given to nothing: whoever writes its name is offered its tags.
  const bundles = useMemo(() => called.filter((n) => isBundle(n.use.tag)), [called]);
  const names = useMemo(() => {
    if (!within) return called.filter((n) => !isBundle(n.use.tag));
    const all = tags.map((t) => t.tag);
    return inTreeOrder(all, within.tag.members ?? []).flatMap((t) => called.find((n) => n.id === t.id) ?? []);
  }, [called, tags, within]);
  // Used near this place, then used just now.
  const likely = useMemo(() => [...new Set([...near, ...recent])], [near, recent]);
  const wanted = useMemo(() => readTyped(typed), [typed]);
  const phrase = useMemo(() => (words ? tellingPhrase(words) : ''), [words]);
  const options = useMemo<Option[]>(() => {
    const taken = new Set(picked.map((p) => ('id' in p ? p.id : -1)));
    const found = findTags(
      // A retired tag is not offered; whoever writes its whole name gets it.
      names.filter((n) => !taken.has(n.id) && (!n.use.tag.retired || isCalled(n, wanted.name))),
      wanted.name,
      // Those of a bundle keep the order of the tree.
      within ? [] : likely,
      within ? names.length : undefined,
    ).map((n): Option => ({ kind: 'tag', use: n.use }));
    if (within) return found;
    if (wanted.name !== '' && !called.some((n) => isCalled(n, wanted.name))) {
      const well = found.filter((o) => o.kind === 'tag' && fitsWell(o.use.tag, wanted.name)).length;
      // What is said of a tag's family or meaning is said of a new one.
      found.splice(wanted.above.length > 0 || wanted.definition !== '' ? 0 : well, 0, { kind: 'new', name: typed.trim().replace(/\s+/g, ' ') });
    }
    if (typed === '' && phrase !== '') found.push({ kind: 'words', name: phrase });
    const fitting = wanted.name === '' ? [] : findTags(bundles.filter((n) => !n.use.tag.retired), wanted.name, []); // prettier-ignore
    return [...found, ...fitting.map((n): Option => ({ kind: 'bundle', use: n.use }))];
  }, [names, called, bundles, within, typed, wanted, likely, picked, phrase]);

  const asPicked = (option: Exclude<Option, { kind: 'bundle' }>): Picked => (option.kind === 'tag' ? { id: option.use.tag.id } : { name: option.name });
  /** Whether it was a bundle, whose tags are offered from then on. */
  const opens = (option: Option): option is Extract<Option, { kind: 'bundle' }> => {
    if (option.kind !== 'bundle') return false;
    setWithin(option.use);
    setTyped('');
    setAt(0);
    return true;
  };
  const take = (option: Option) => {
    if (opens(option)) return;
    setPicked([...picked, asPicked(option)]);
    setTyped('');
    setAt(0);
  };
  const send = (all: readonly Picked[], values: Asking['values']) =>
    onDone(
      all.flatMap((p) => ('id' in p ? [p.id] : [])),
      all.flatMap((p) => ('name' in p ? [p.name] : [])),
      values,
    );
  const scaleOf = (id: number) => tags.find((t) => t.tag.id === id)?.tag.scale ?? null;
  const file = (all: Picked[]) => {
    const scaled = asksValues ? all.flatMap((p) => ('id' in p && scaleOf(p.id) ? [p.id] : [])) : [];
    if (scaled.length === 0) return send(all, []);
    setTyped('');
    setAsking({ all, left: scaled, values: [] });
  };
  /** Takes the value that was typed, or none, and asks for the next. */
  const give = (value: number | null) => {
    if (!asking) return;
    const values: Asking['values'] = value === null ? asking.values : [...asking.values, [asking.left[0]!, value]];
    const left = asking.left.slice(1);
    setTyped('');
    if (left.length === 0) send(asking.all, values);
    else setAsking({ ...asking, left, values });
  };
  const asked = asking ? { id: asking.left[0]!, scale: scaleOf(asking.left[0]!)! } : null;
  const typedValue = typed.trim() === '' ? null : Number(typed.replace(',', '.'));
  const fits = typedValue === null || (asked !== null && onScale(asked.scale, typedValue));

  const keys = (event: KeyboardEvent<HTMLInputElement>) => {
    const chosen = options[at];
    const handled = () => {
      event.preventDefault();
      event.stopPropagation();
    };
    if (asking) {
      if (event.key === 'Enter' && fits) {
        handled();
        give(typedValue);
      } else if (event.key === 'Escape') {
        handled();
        send(asking.all, asking.values);
      }
      return;
    }
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      handled();
      setAt((at + (event.key === 'ArrowDown' ? 1 : -1) + options.length) % Math.max(1, options.length));
    } else if (event.key === 'Enter' && event.shiftKey && typed.trim() !== '') {
      handled();
      file([...picked, { name: typed }]);
    } else if (event.key === 'Enter') {
      handled();
      const byChoice = typed.trim() !== '' || ((at > 0 || within !== null) && picked.length === 0);
      if (chosen && byChoice && opens(chosen)) return;
      file(chosen && byChoice && chosen.kind !== 'bundle' ? [...picked, asPicked(chosen)] : picked);
    } else if (event.key === ',' && chosen && wanted.definition === '') {
      handled();
      take(chosen);
    } else if (event.key === '"' && typed === '' && phrase !== '') {
      // Into the line, where it can be cut.
      handled();
      setTyped(phrase);
      setAt(0);
    } else if ((event.key === 'Backspace' || event.key === 'Escape') && typed === '' && within) {
      handled();
      setWithin(null);
    } else if (event.key === 'Backspace' && typed === '') {
      setPicked(picked.slice(0, -1));
    } else if (event.key === 'Escape') {
      handled();
      onCancel();
    }
  };
  const pointed = options[at];
  const said =
    pointed && 'use' in pointed ? [pointed.use.tag.definition, pointed.use.tag.isNot && `Not: ${pointed.use.tag.isNot}`].filter(Boolean).join(' ') : '';

  return (
    <div className="w-[430px] max-w-full animate-rise overflow-hidden rounded-std border border-line bg-case text-[13.5px] shadow-float" data-testid="tag-line">
      <div className="flex flex-wrap items-center gap-1.5 border-b border-line px-3 py-2">
        {(asking?.all ?? picked).map((p, i) => (
          <span key={'id' in p ? p.id : p.name} className="inline-flex items-center gap-1 rounded-[4px] border border-line bg-paper px-1.5 py-px text-[12.5px]">
            {'id' in p ? <TagDot look={look(p.id)} /> : <span className="text-brass">new</span>}
            {'id' in p ? look(p.id).name : p.name}
            {asking ? (
              ' ' + ('id' in p ? (asking.values.find(([id]) => id === p.id)?.[1] ?? '') : '')
            ) : (
              <button type="button" aria-label="Leave this tag out" className="size-5" onClick={() => setPicked(picked.filter((_, j) => j !== i))}>
                <X className="mx-auto size-3" />
              </button>
            )}
          </span>
        ))}
        <input
          ref={input}
          autoFocus
          role="combobox"
          aria-label={asked ? `Value of ${look(asked.id).name}` : 'Tags for this stretch'}
          aria-expanded
          aria-controls={list}
          aria-activedescendant={!asking && options[at] ? `${list}-${at}` : undefined}
          aria-invalid={asking ? !fits : undefined}
          placeholder={
            asked
              ? `${look(asked.id).name}: ${asked.scale.least} to ${asked.scale.most}`
              : within
                ? `a tag of “${within.tag.name}”`
                : picked.length
                  ? 'another, or Enter'
                  : 'Name what you notice'
          }
          value={typed}
          // What stands there already is written over by whoever types.
          onFocus={(e) => before && e.target.select()}
          onChange={(e) => {
            setTyped(e.target.value);
            setAt(0);
          }}
          onKeyDown={keys}
          className="min-w-[120px] flex-1 bg-transparent outline-none"
        />
      </div>
      {asked ? (
        <p className={`px-3 py-2 ${fits ? 'text-ink-soft' : 'text-oxblood'}`} role="status">
          {fits
            ? `${asked.scale.least}${asked.scale.lowLabel && `, ${asked.scale.lowLabel},`} to ${asked.scale.most}${asked.scale.highLabel && `, ${asked.scale.highLabel}`}${asked.scale.unit && `; ${asked.scale.unit}`}`
            : `From ${asked.scale.least} to ${asked.scale.most} in steps of ${asked.scale.step}.`}
        </p>
      ) : (
        <ul role="listbox" id={list} aria-label="Tags that fit">
          {options.map((option, i) => (
            <li
              key={'use' in option ? option.use.tag.id : option.kind}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === at}
              onMouseEnter={() => setAt(i)}
              onMouseDown={(e) => e.preventDefault()}
              onClick={() => {
                if (!opens(option)) file([...picked, asPicked(option as Exclude<Option, { kind: 'bundle' }>)]);
              }}
              className={`flex min-h-8 cursor-pointer items-center gap-2 px-3 ${i === at ? 'bg-wash' : ''} ${!('use' in option) ? 'border-t border-line text-ink-soft' : ''}`}
            >
              {option.kind === 'tag' ? (
                <>
                  <TagDot look={look(option.use.tag.id)} />
                  <span className="truncate">
                    {option.use.tag.name}
                    {aliasThatFits(option.use.tag, wanted.name) !== undefined && (
                      <span className="text-ink-soft"> also called “{aliasThatFits(option.use.tag, wanted.name)}”</span>
                    )}
                  </span>
                  <span className="ml-auto shrink-0 text-[12px] text-ink-soft">
                    {typed === '' && near.includes(option.use.tag.id)
                      ? 'near this place'
                      : typed === '' && recent.includes(option.use.tag.id)
                        ? 'used just now'
                        : option.use.breadth.triple.people > 0 && count(option.use.breadth.triple.people, 'person', 'people')}
                  </span>
                </>
              ) : option.kind === 'bundle' ? (
                <>
                  <TagDot look={look(option.use.tag.id)} />
                  <span className="truncate">{option.use.tag.name}</span>
                  <span className="ml-auto shrink-0 text-[12px] text-ink-soft">bundle: choose of its {count(option.use.tag.members?.length ?? 0, 'tag')}</span>
                </>
              ) : option.kind === 'new' ? (
                <>
                  {wanted.colour !== null && <span aria-hidden className="size-2.5 shrink-0 rounded-full" style={{ background: hue(wanted.colour) }} />}
                  <span className="truncate">
                    New {wanted.definition === '' ? 'draft tag' : 'tag'} “{wanted.name}”{wanted.above.length > 0 && ` under “${wanted.above.join(' / ')}”`}
                    {wanted.definition !== '' && `: ${wanted.definition}`}
                  </span>
                  <span className="ml-auto shrink-0">
                    <Key>Shift Enter</Key>
                  </span>
                </>
              ) : (
                <>
                  <span className="truncate">In their words: “{option.name}”</span>
                  <span className="ml-auto shrink-0">
                    <Key>{'"'}</Key>
                  </span>
                </>
              )}
            </li>
          ))}
        </ul>
      )}
      {pointed?.kind === 'new' && !asking && (
        <Colours
          at={wanted.colour}
          onPick={(colour) => {
            setTyped(withColour(typed, colour));
            input.current?.focus();
          }}
        />
      )}
      {said !== '' && !asking && <p className="line-clamp-2 border-t border-line px-3 py-1.5 text-[12px] text-ink-soft">{said}</p>}
      <p className="border-t border-line px-3 py-1.5 text-[11.5px] text-ink-soft">
        {asking ? (
          <>
            <Key>Enter</Key> gives it, or leaves it out when empty
          </>
        ) : picked.length === 0 && typed !== '' && options[at]?.kind === 'new' ? (
          <>
            <Key>family / name</Key> puts it under a tag · <Key>name = what it is</Key> defines it
          </>
        ) : (
          <>
            <Key>Enter</Key> files it · <Key>,</Key> adds another · <Key>Esc</Key> leaves
          </>
        )}
      </p>
    </div>
  );
}
