import { useNavigate } from '@tanstack/react-router';
import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { fold } from '@/parts/findTags';
import { ActionKey } from '@/parts/actions/ActionButton';
import { announced, type Announced, type AnnouncedList } from '@/parts/actions/registry';
import { HitWords } from '@/parts/HitWords';
import { foundWords, placeOf, type Hit } from './hits';
import { useHits } from './useHits';

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

const item = 'flex cursor-pointer items-baseline gap-3 rounded-[4px] px-3 py-1.5 data-[selected=true]:bg-wash';
const heading =
  '[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2.5 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:font-medium [&_[cmdk-group-heading]]:text-ink-soft';
const few = 4;
/** So many letters of an act’s name bring it before what is found. */
const leastTyped = 4;

/** One field to go anywhere, find anything, and do what can be done here. */
export function Palette({ open, onOpenChange }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[rgb(20_25_26/0.35)]" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[10vh] left-1/2 z-50 w-[94vw] max-w-[680px] -translate-x-1/2 animate-rise rounded-std border border-line bg-case shadow-float"
        >
          <Dialog.Title className="sr-only">Find or do</Dialog.Title>
          <Finder onDone={() => onOpenChange(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Finder({ onDone }: { onDone: () => void }) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const { groups, error, busy } = useHits(typed);
  const words = fold(typed).split(/\s+/);
  const [lists] = useState(announced);
  /** What is called as was typed comes first, then what begins so. */
  const rank = ({ action: { name } }: Announced) => (typed === '' ? 0 : fold(name) === fold(typed) ? 0 : fold(name).startsWith(fold(typed)) ? 1 : 2);
  const doable = lists
    .map(({ title, actions }) => ({
      title,
      actions: actions.filter(
        ({ action: { name, says = '', also = '' }, run }) => run && words.every((word) => fold(`${name} ${says} ${also}`).includes(word)),
      ),
    }))
    .filter(({ actions }) => actions.length > 0)
    .map(({ title, actions }) => ({ title, actions: actions.toSorted((a, b) => rank(a) - rank(b)) }))
    .toSorted((a, b) => rank(a.actions[0]!) - rank(b.actions[0]!));
  // An act whose name is being typed stands before what is found: Enter does it, whatever comes in from the search meanwhile.
  const named = doable.filter(({ actions }) => typed.length >= leastTyped && rank(actions[0]!) < 2);
  const done = (act: () => void) => () => {
    onDone();
    act();
  };
  const acts = ({ title, actions }: AnnouncedList) => (
    <Command.Group key={title} heading={title}>
      {actions.map(({ action, run }) => (
        <Command.Item key={action.name} value={`${title}: ${action.name}`} className={item} onSelect={done(run!)}>
          <span className="flex-1">{action.name}</span>
          <ActionKey of={action} />
        </Command.Item>
      ))}
    </Command.Group>
  );
  const all = { to: '/search', search: { typed } } as const;
  return (
    <Command shouldFilter={false} loop label="Find or do">
      <Command.Input
        value={typed}
        onValueChange={setTyped}
        placeholder="Find a study, tag, theme, insight, any words; or do something"
        className="w-full rounded-t-std border-b border-line bg-transparent px-4 py-3 text-[15px] placeholder:text-ink-soft focus-visible:outline-none"
      />
      <Command.List className={`max-h-[60vh] overflow-y-auto p-1.5 ${heading}`}>
        {error && <p className="px-3 py-2 text-oxblood">{error.message}</p>}
        {!busy && groups.length + doable.length === 0 && <p className="px-3 py-3 text-ink-soft">Nothing has these words. Fewer or shorter ones find more.</p>}
        {named.map(acts)}
        {groups.map((group) => (
          <Command.Group key={group.kind} heading={foundWords[group.kind]}>
            {group.hits.slice(0, few).map((hit) => (
              <Command.Item key={`${hit.kind} ${hit.id}`} value={`${hit.kind} ${hit.id}`} className={item} onSelect={done(() => void navigate(placeOf(hit)))}>
                <Line hit={hit} />
              </Command.Item>
            ))}
          </Command.Group>
        ))}
        {groups.length > 0 && (
          <Command.Item value="all" className={`${item} mt-1 text-sky`} onSelect={done(() => void navigate(all))}>
            All that is found for “{typed.trim()}”
          </Command.Item>
        )}
        {doable.filter((list) => !named.includes(list)).map(acts)}
      </Command.List>
    </Command>
  );
}

function Line({ hit }: { hit: Hit }) {
  const quoted = hit.kind === 'observation' || hit.kind === 'text';
  return (
    <>
      <span className={`min-w-0 flex-1 truncate ${quoted ? 'font-read text-[14.5px]' : ''}`}>
        {!quoted && <span className="mr-3 font-medium">{hit.name || hit.studyTitle}</span>}
        {(quoted || hit.marks.length > 0) && (
          <span className={quoted ? '' : 'text-[12.5px] text-ink-soft'}>
            <HitWords hit={hit} />
          </span>
        )}
      </span>
      <span className="max-w-[200px] shrink-0 truncate text-[12px] text-ink-soft">
        {quoted ? hit.name : hit.kind === 'study' ? '' : (hit.studyTitle ?? '')}
      </span>
    </>
  );
}
