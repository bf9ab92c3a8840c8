/**
 * One mechanism that gives focus back. What closes (dialogs, drawers, menus, lines), what is drawn anew and what is removed takes the focus
 * with it; the page's keys would be dead then. Focus goes to what had it before, to the same thing drawn anew, to what stands where it
 * stood, or to what the page is for.
 */

/** What comes and goes over a page: focus inside it does not outlive it. */
const passing = '[role="dialog"], [role="menu"], [role="listbox"], [data-passing], aside[aria-label="Evidence"], [data-testid="tag-line"]';
const able = 'a[href], button, input, select, textarea, summary, [tabindex]:not([tabindex="-1"]), [contenteditable="true"]';
const groups = 'ul, ol, table, form, section, [role="list"], [role="grid"], [role="tree"], [role="toolbar"], [role="group"], [role="region"]';
/** What a page is for takes its keys. */
const takesKeys = '[data-takes-keys]';
const mostHeld = 20;
/** How long a page may take to come in, in milliseconds. */
const longest = 8000;
/** How long a key is kept that was pressed before what takes it was there. */
const longestEarly = 3000;

interface Held {
  element: HTMLElement;
  passing: Element | null;
  name: string;
  /** What it stood in, from within. */
  within: HTMLElement[];
  group: HTMLElement | null;
  /** Which it was of what can have the focus in its group. */
  at: number;
}

const isShown = (element: HTMLElement) => element.getClientRects().length > 0 && element.closest('[inert]') === null;
const isUsable = (element: HTMLElement) => element.isConnected && isShown(element) && !element.matches(':disabled');
const ableIn = (root: HTMLElement) => [...root.querySelectorAll<HTMLElement>(able)].filter(isUsable);
const nameOf = (element: HTMLElement) =>
  `${element.tagName} ${element.getAttribute('role') ?? ''} ${element.getAttribute('aria-label') ?? element.textContent.slice(0, 80).trim()}`;

function held(element: HTMLElement): Held {
  const within: HTMLElement[] = [];
  for (let up = element.parentElement; up && up !== document.body && up.tagName !== 'MAIN'; up = up.parentElement) within.push(up);
  const group = element.parentElement?.closest<HTMLElement>(groups) ?? null;
  return {
    element,
    passing: element.closest(passing),
    name: nameOf(element),
    within,
    group,
    at: group ? [...group.querySelectorAll(able)].indexOf(element) : -1,
  };
}

/** What a page is for: what takes its keys, else the page itself. */
export function focusPage(): boolean {
  const target = [...document.querySelectorAll<HTMLElement>(takesKeys)].find(isUsable) ?? document.querySelector<HTMLElement>('main');
  if (!target) return false;
  if (!target.hasAttribute('tabindex')) target.tabIndex = -1;
  target.focus({ preventScroll: true });
  return document.activeElement === target;
}

function inPlaceOf(one: Held): HTMLElement | null {
  if (isUsable(one.element)) return one.element;
  const there = one.within.find((up) => up.isConnected && isShown(up));
  if (!there) return null;
  const anew = ableIn(there).filter((other) => nameOf(other) === one.name);
  if (anew.length > 0) return anew[0]!;
  // What stood there is gone: what stands in its place now.
  const group = one.group?.isConnected ? one.group : there;
  if (group.matches(able) && isUsable(group)) return group;
  const left = ableIn(group);
  return left[Math.max(0, Math.min(left.length - 1, one.at))] ?? null;
}

/** Watches over the focus of the whole page; what it returns ends it. */
export function keepFocus(): () => void {
  let history: Held[] = [];
  let waiting = 0;
  let arriving = 0;
  /** Keys that were pressed before what takes them was there. */
  let early: KeyboardEvent[] = [];
  /** Those of them that the page was given again. */
  const again = new WeakSet<KeyboardEvent>();
  /** When a click may have led to another page: what is pressed after it is meant for that page. */
  let leaving = 0;

  const onBare = () => document.activeElement === null || document.activeElement === document.body;
  const giveBack = () => {
    for (const one of history) {
      if (one.passing && !one.passing.isConnected) continue;
      const target = inPlaceOf(one);
      if (!target) continue;
      target.focus({ preventScroll: true });
      if (document.activeElement === target) return;
    }
    focusPage();
  };
  const look = () => {
    waiting = 0;
    const now = document.activeElement;
    if (Date.now() < arriving) {
      const ready = [...document.querySelectorAll<HTMLElement>(takesKeys)].some(isUsable);
      // What the page is for comes in later than the page.
      if (onBare() || now?.tagName === 'MAIN') {
        focusPage();
        if (ready) {
          arriving = 0;
          const keys = early.filter((e) => performance.now() - e.timeStamp < longestEarly);
          early = [];
          for (const { key, code, shiftKey, altKey } of keys) {
            const pressed = new KeyboardEvent('keydown', { key, code, shiftKey, altKey, bubbles: true, cancelable: true });
            again.add(pressed);
            document.activeElement?.dispatchEvent(pressed);
          }
        }
        return;
      }
    }
    if (!onBare()) return;
    const last = history[0];
    // A click beside everything takes the focus away on purpose; and a button that works is disabled for a while.
    if (!last || (last.element.isConnected && isShown(last.element))) return;
    giveBack();
  };
  const soon = () => {
    waiting ||= window.setTimeout(look, 0);
  };
  const seen = (event: FocusEvent) => {
    if (!(event.target instanceof HTMLElement) || event.target === document.body) return;
    const { target } = event;
    // Whoever has gone on by themselves is not led back.
    if (target.tagName !== 'MAIN' && target.closest('main')) arriving = 0;
    history = [held(target), ...history.filter((h) => h.element !== target)].slice(0, mostHeld);
  };
  const arrived = () => {
    arriving = Date.now() + longest;
    early = early.filter((e) => e.timeStamp >= leaving);
    const now = document.activeElement;
    const writes = now instanceof HTMLElement && now.matches('input, textarea, select, [contenteditable="true"]') && now.closest('main') !== null;
    if (writes || now?.closest(passing)) return;
    if (!focusPage()) (now as HTMLElement | null)?.blur();
    soon();
  };
  const clicked = (event: MouseEvent) => {
    early = [];
    leaving = event.timeStamp;
  };
  const tooEarly = (event: KeyboardEvent) => {
    const comes = Date.now() < arriving || event.timeStamp - leaving < longestEarly;
    if (!comes || again.has(event) || event.defaultPrevented || event.ctrlKey || event.metaKey || event.key.length > 1) return;
    const now = document.activeElement;
    if ((onBare() || now?.tagName === 'MAIN' || now?.tagName === 'A') && early.length < mostHeld) early.push(event);
  };
  const observer = new MutationObserver(soon);
  observer.observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled', 'hidden', 'inert'] });
  document.addEventListener('focusin', seen);
  document.addEventListener('keydown', tooEarly);
  document.addEventListener('click', clicked, { capture: true });
  document.addEventListener('vitrine-arrived', arrived);
  return () => {
    observer.disconnect();
    window.clearTimeout(waiting);
    document.removeEventListener('focusin', seen);
    document.removeEventListener('keydown', tooEarly);
    document.removeEventListener('click', clicked, { capture: true });
    document.removeEventListener('vitrine-arrived', arrived);
  };
}

/** Another page is shown, or another thing on it that one came for. */
export const pageArrived = () => void document.dispatchEvent(new Event('vitrine-arrived'));
