import type { KeyboardEvent as ReactKeyboardEvent } from 'react';
import { typing } from '../typing';

/** What an action is for; help is grouped by it. */
export type Group = 'move' | 'mark' | 'look' | 'go';

/** The key that was pressed: as the browser names it, and with what was held down. */
export interface Press {
  key: string;
  shift: boolean;
  alt: boolean;
  /** Ctrl, or what stands for it. */
  command: boolean;
}

/** An action that was asked for by its name, not by a key. */
export const noKey: Press = { key: '', shift: false, alt: false, command: false };

/** Something that can be done on a page. Its keys, the help, the palette and its buttons all read this. */
export interface Action<On> {
  /** What it is called, on buttons and in the palette. */
  name: string;
  /** More of what it does, for the help. */
  says?: string;
  /** More words that it is found by. */
  also?: string;
  group: Group;
  /** `a`, `A`, `ArrowUp`, `Shift+ArrowUp`, `Ctrl+k`, `Alt+i`: a capital is a letter with Shift; with Ctrl or Alt letters are small. */
  keys: readonly string[];
  /** How its keys are written, where that is shorter than one after the other. */
  shown?: string;
  /** Whether it can be done now; without it, always. */
  when?: (on: On) => boolean;
  /** Does it. False says that there was nothing to do: the key is then left to the page. */
  run: (on: On, press: Press) => unknown;
  /** Which key is pressed tells what is done, so it is not offered by its name. */
  byKey?: true;
  /** Its keys with Ctrl or Alt are also heard while somebody writes in a field. */
  inFields?: true;
}

export type Actions<On> = Readonly<Record<string, Action<On>>>;

/** All that can be done on one page, or in one part of it. */
export interface ActionList<On> {
  title: string;
  actions: Actions<On>;
  /** It holds on every page, and is listed after what is nearer. */
  last?: true;
}

/** The keys of something that has nine places, each with a number. */
export const digits = { keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'], shown: '1 … 9', byKey: true } as const;

type Key = KeyboardEvent | ReactKeyboardEvent;

const byPlace: Record<string, string> = { Space: ' ', Comma: ',', Period: '.' };

/** A key with what is held down, written as in an action. With Alt it is the place of the key that counts, as Alt writes other letters on some keyboards. */
export function chordOf({ key, code, shiftKey, ctrlKey, metaKey, altKey }: Key): string {
  const command = ctrlKey || metaKey;
  const plain = altKey ? (byPlace[code] ?? /^Key([A-Z])$/.exec(code)?.[1] ?? key) : key;
  const held = command || altKey;
  const shift = shiftKey && (held || plain.length > 1);
  return `${command ? 'Ctrl+' : ''}${altKey ? 'Alt+' : ''}${shift ? 'Shift+' : ''}${held && plain.length === 1 ? plain.toLowerCase() : plain}`;
}

/** The action of a key, of those that can be done now. What has no meaning of its own with Shift means the same without it; with Ctrl it is the browser’s. */
export function actionOf<On>(actions: Actions<On>, on: On, event: Key): Action<On> | undefined {
  const chord = chordOf(event);
  const can = (wanted: string) => Object.values(actions).find((a) => a.keys.includes(wanted) && (!a.when || a.when(on)));
  return can(chord) ?? (chord.includes('Shift+') && !chord.startsWith('Ctrl+') ? can(chord.replace('Shift+', '')) : undefined);
}

/** Does what a key asks for, if anything does; says whether it was used. What something nearer has taken, and what is typed into a field, is left alone. */
export function pressed<On>({ actions }: ActionList<On>, on: On, event: Key): boolean {
  if (event.defaultPrevented) return false;
  const action = actionOf(actions, on, event);
  const writes = typing(event.target) && !(action?.inFields && (event.ctrlKey || event.metaKey || event.altKey));
  if (!action || writes) return false;
  if (action.run(on, { key: event.key, shift: event.shiftKey, alt: event.altKey, command: event.ctrlKey || event.metaKey }) === false) return false;
  event.preventDefault();
  return true;
}

const written: Record<string, string> = {
  ' ': 'Space',
  '-': '−',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  PageUp: 'PgUp',
  PageDown: 'PgDn',
  Escape: 'Esc',
  Delete: 'Del',
};

/** A key as it is written in hints: "Ctrl K", "←", "Esc". */
export function keyShown(chord: string): string {
  const held = /^(?:(?:Ctrl|Alt|Shift)\+)*/.exec(chord)![0];
  const key = chord.slice(held.length);
  return `${held.replaceAll('+', ' ')}${written[key] ?? (held ? key.toUpperCase() : key)}`;
}

/** All keys of an action, as they are written; those that only add Shift to one that is there are left to its words. */
export const keysShown = ({ keys, shown }: Pick<Action<never>, 'keys' | 'shown'>): string =>
  shown ??
  keys
    .filter((k) => !k.includes('Shift+') || !keys.includes(k.replace('Shift+', '')))
    .map(keyShown)
    .join('  ');
