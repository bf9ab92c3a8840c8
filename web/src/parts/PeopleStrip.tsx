import { useState, type KeyboardEvent, type MouseEvent } from 'react';
import type { Schemas } from '@/api/client';
import { LongStrip } from './LongStrip';
import { count } from './words';

type Breadth = Schemas['Breadth'];
type Person = { id: number; pseudonym: string; begun?: boolean };

interface Props {
  people: readonly Person[];
  breadth: Pick<Breadth, 'strip' | 'against' | 'asked'>;
  /** Opens one person's words; null for everyone's. */
  onPick?: ((personId: number | null) => void) | undefined;
  large?: boolean;
}

/** Up to so many people have a cell each. */
const mostCells = 36;
/** So many are named in the words that stand for the strip. */
const mostNamed = 12;

const depth = (n: number) =>
  n >= 4 ? 'var(--verdigris)' : n >= 2 ? 'color-mix(in oklab, var(--verdigris) 68%, var(--case))' : 'color-mix(in oklab, var(--verdigris) 36%, var(--case))';
const hatch = 'repeating-linear-gradient(135deg, var(--oxblood) 0 2px, var(--case) 2px 3.5px)';

function said(person: Person, own: number, against: number, asked: boolean): string {
  if (!asked) return `${person.pseudonym}: not asked, or not read yet`;
  if (own === 0 && against === 0) return `${person.pseudonym}: nothing`;
  return `${person.pseudonym}: ${[own > 0 && count(own, 'observation'), against > 0 && `${against} contradicting`].filter(Boolean).join(', ')}`;
}

/** One cell per participant, in the study's order: breadth at a glance. Arrow keys walk along the cells, Enter opens the words of the person. */
export function PeopleStrip({ people, breadth, ...rest }: Props) {
  if (people.length <= mostCells) return <Strip people={people} breadth={breadth} {...rest} />;
  // Of so many, those whom nobody has begun to read would hide the others; all strips leave out the same people.
  const read = people.flatMap((person, i) => (person.begun || breadth.asked[i] ? [i] : []));
  const of = <T,>(all: readonly T[]) => read.map((i) => all[i]!);
  return <Strip people={of(people)} breadth={{ strip: of(breadth.strip), against: of(breadth.against), asked: of(breadth.asked) }} {...rest} />;
}

function Strip({ people, breadth, onPick, large = false }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const texts = people.map((p, i) => said(p, breadth.strip[i] ?? 0, breadth.against[i] ?? 0, breadth.asked[i] ?? false));
  const facts = people.map((_, i) => ({ own: breadth.strip[i] ?? 0, against: breadth.against[i] ?? 0, asked: breadth.asked[i] ?? false }));
  const long = people.length > mostCells;
  const says = (i: number) => facts[i]!.own + facts[i]!.against > 0;
  const cells = long ? (
    <LongStrip cells={facts} at={at} large={large} depth={depth} />
  ) : (
    people.map((person, i) => {
      const { own, against, asked } = facts[i]!;
      const size = large ? 'h-[17px] w-[11px]' : 'h-[12px] w-[7px]';
      if (!asked)
        return (
          <span
            key={person.id}
            data-person={person.id}
            title={texts[i]}
            className={`grid place-items-center ${size} ${at === i ? 'outline-2 outline-verdigris' : ''}`}
          >
            <span className="size-[2.5px] rounded-full bg-ink-soft" />
          </span>
        );
      const fill = against > 0 ? hatch : own > 0 ? depth(own) : 'transparent';
      const edge = against > 0 ? 'var(--oxblood)' : own > 0 ? 'transparent' : 'color-mix(in oklab, var(--ink-soft) 45%, var(--paper))';
      return (
        <span
          key={person.id}
          data-person={person.id}
          title={texts[i]}
          className={`rounded-[2px] border ${size} ${at === i ? 'outline-2 outline-offset-1 outline-verdigris' : ''}`}
          style={{ background: fill, borderColor: edge }}
        />
      );
    })
  );
  const shown = texts.filter((t, i) => (long ? says(i) : !t.endsWith('nothing')));
  const rest = shown.length > mostNamed && long ? `; and ${shown.length - mostNamed} more` : '';
  const label = `People: ${(long ? shown.slice(0, mostNamed) : shown).join('; ') || 'nobody yet'}${rest}`;
  if (!onPick)
    return (
      <span role="img" aria-label={label} className="inline-flex gap-[2px]">
        {cells}
      </span>
    );

  const click = (event: MouseEvent) => {
    if (event.detail === 0) return onPick(at === null ? null : (people[at]?.id ?? null));
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-person]');
    onPick(cell ? Number(cell.dataset['person']) : null);
  };
  const walk = (event: KeyboardEvent) => {
    const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (step === 0 || people.length === 0) return;
    event.preventDefault();
    let next = at ?? (step > 0 ? -1 : 0);
    // In a long strip the keys go from one who says something to the next.
    do next = (next + step + people.length) % people.length;
    while (long && !says(next) && facts.some((_, i) => says(i)));
    setAt(next);
  };
  return (
    <button
      type="button"
      aria-label={at === null ? label : texts[at]}
      onClick={click}
      onKeyDown={walk}
      onBlur={() => setAt(null)}
      className="-my-1 inline-flex min-h-6 items-center gap-[2px] py-1"
    >
      {cells}
    </button>
  );
}
