import type { KeyboardEvent } from 'react';
import { typing } from '@/parts/typing';

/** What keys of the player do. Each tells whether it was used. */
export interface DeskActs {
  toggle: () => void;
  skip: (ms: number) => void;
  faster: (steps: 1 | -1) => void;
  begin: () => void;
  end: () => void;
  again: () => void;
  loop: () => void;
  edge: (ms: number) => void;
  otherEdge: () => void;
  nudge: (ms: number) => void;
  scene: (on: boolean) => void;
  pin: () => void;
  here: () => void;
  frame: (on: boolean) => void;
  louder: () => void;
  still: () => void;
  follow: () => void;
  zoom: (times: number) => void;
  whole: () => void;
  fit: () => void;
  goTo: () => void;
  step: (on: boolean) => void;
  tag: () => void;
  pen: (number: number) => void;
  putIn: () => void;
  card: () => void;
  star: () => void;
  unsure: () => void;
  split: () => void;
  join: () => void;
  remove: () => void;
  /** Whether there was something to leave. */
  leave: () => boolean;
}

/** Keys that go on while somebody writes, with Alt held down: by the place of the key, as Alt writes other letters on some keyboards. */
const whileWriting: Record<string, (acts: DeskActs) => void> = {
  Space: (a) => a.toggle(),
  KeyP: (a) => a.toggle(),
  ArrowLeft: (a) => a.skip(-5000),
  ArrowRight: (a) => a.skip(5000),
  ArrowUp: (a) => a.faster(1),
  ArrowDown: (a) => a.faster(-1),
  KeyI: (a) => a.begin(),
  KeyO: (a) => a.end(),
  KeyL: (a) => a.again(),
  Comma: (a) => a.edge(-100),
  Period: (a) => a.edge(100),
  KeyF: (a) => a.still(),
};

/** What a key does; one that says false has found nothing to do and leaves the key to the page. */
const keys: Record<string, (acts: DeskActs) => unknown> = {
  ' ': (a) => a.toggle(),
  ArrowLeft: (a) => a.skip(-5000),
  ArrowRight: (a) => a.skip(5000),
  PageUp: (a) => a.skip(-15_000),
  PageDown: (a) => a.skip(15_000),
  ArrowUp: (a) => a.faster(1),
  ArrowDown: (a) => a.faster(-1),
  i: (a) => a.begin(),
  o: (a) => a.end(),
  l: (a) => a.again(),
  L: (a) => a.loop(),
  ',': (a) => a.edge(-100),
  '.': (a) => a.edge(100),
  '<': (a) => a.edge(-1000),
  '>': (a) => a.edge(1000),
  b: (a) => a.otherEdge(),
  n: (a) => a.nudge(100),
  c: (a) => a.scene(true),
  C: (a) => a.scene(false),
  p: (a) => a.pin(),
  h: (a) => a.here(),
  k: (a) => a.frame(true),
  K: (a) => a.frame(false),
  v: (a) => a.louder(),
  N: (a) => a.nudge(-100),
  f: (a) => a.still(),
  g: (a) => a.follow(),
  '+': (a) => a.zoom(0.5),
  '=': (a) => a.zoom(0.5),
  '-': (a) => a.zoom(2),
  w: (a) => a.whole(),
  W: (a) => a.fit(),
  ':': (a) => a.goTo(),
  ']': (a) => a.step(true),
  '[': (a) => a.step(false),
  Enter: (a) => a.tag(),
  t: (a) => a.putIn(),
  e: (a) => a.card(),
  s: (a) => a.star(),
  q: (a) => a.unsure(),
  x: (a) => a.split(),
  j: (a) => a.join(),
  Delete: (a) => a.remove(),
  Escape: (a) => a.leave(),
};

/** Marking a recording with hands on the keys. */
export const deskKeys = (acts: DeskActs) => (event: KeyboardEvent) => {
  if (event.ctrlKey || event.metaKey || event.defaultPrevented) return;
  const writes = typing(event.target);
  const act: ((acts: DeskActs) => unknown) | undefined = event.altKey ? whileWriting[event.code] : writes ? undefined : (shifted(event) ?? keys[event.key]);
  // The words are scrolled by these when they have the focus.
  const scrolls = (event.target as HTMLElement).dataset['scrolls'] !== undefined;
  if (scrolls && ['ArrowUp', 'ArrowDown', 'PageUp', 'PageDown'].includes(event.key)) return;
  const onButton = (event.target as HTMLElement).closest('button, a, input, select, [role="dialog"]') !== null;
  if (!event.altKey && onButton && ['Enter', ' ', 'Escape'].includes(event.key)) return;
  const pen = !event.altKey && !writes && /^[1-9]$/.test(event.key) ? Number(event.key) : null;
  if (!act && pen === null) return;
  if (act) {
    if (act(acts) === false) return;
  } else acts.pen(pen!);
  event.preventDefault();
};

const shifted = (event: KeyboardEvent): ((acts: DeskActs) => void) | undefined =>
  event.shiftKey ? { ArrowLeft: (a: DeskActs) => a.skip(-1000), ArrowRight: (a: DeskActs) => a.skip(1000) }[event.key] : undefined;
