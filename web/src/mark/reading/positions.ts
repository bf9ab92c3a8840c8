import type { TextRange } from '@/mark/observations/place';

/** Every turn is one `[data-start]` element whose text nodes, one after the other, are its words; so a position in the text is a turn and an offset. */
const blocks = (root: HTMLElement) => [...root.querySelectorAll<HTMLElement>('[data-start]')];
const startOf = (block: HTMLElement) => Number(block.dataset['start']);

const textsOf = (block: Node) => {
  const walker = document.createTreeWalker(block, NodeFilter.SHOW_TEXT);
  const texts: Text[] = [];
  for (let node = walker.nextNode(); node; node = walker.nextNode()) texts.push(node as Text);
  return texts;
};
const lengthOf = (block: Node) => (block.textContent ?? '').length;

/** The text node of an offset into a block, and the offset into that node. At a border it is the end of the one before, or with `after` the beginning of the next. */
function pointAt(block: Node, offset: number, after: boolean): [Text, number] | null {
  let left = offset;
  let last: [Text, number] | null = null;
  for (const text of textsOf(block)) {
    if (left < text.length || (left === text.length && !after)) return [text, left];
    last = [text, text.length];
    left -= text.length;
  }
  return last;
}

/** The offset into a block of a point that a browser gave; null when the point is elsewhere. */
function offsetIn(block: Node, node: Node, offset: number): number | null {
  if (!block.contains(node)) return null;
  const before = document.createRange();
  before.setStart(block, 0);
  before.setEnd(node, offset);
  return before.toString().length;
}

/** A DOM range over offsets of one block. */
export function rangeIn(block: Node, from: number, to: number): Range | null {
  const [start, end] = [pointAt(block, from, to > from), pointAt(block, to, false)];
  if (!start || !end) return null;
  const range = document.createRange();
  range.setStart(...start);
  range.setEnd(...end);
  return range;
}

/** What the mouse has selected, as a stretch of the source's text; null when it holds no words. */
export function selectedStretch(root: HTMLElement): TextRange | null {
  const selection = window.getSelection();
  if (!selection || selection.rangeCount === 0 || selection.isCollapsed) return null;
  const range = selection.getRangeAt(0);
  let found = null as TextRange | null;
  for (const block of blocks(root)) {
    if (!range.intersectsNode(block)) continue;
    const from = offsetIn(block, range.startContainer, range.startOffset) ?? 0;
    const to = offsetIn(block, range.endContainer, range.endOffset) ?? lengthOf(block);
    if (to <= from) continue;
    found = { start: found?.start ?? startOf(block) + from, end: startOf(block) + to };
  }
  return found;
}

/** The position under a point of the window; null when there are no words there. */
export function positionAt(x: number, y: number): number | null {
  const caret = document.caretPositionFromPoint(x, y);
  const block = caret?.offsetNode.parentElement?.closest<HTMLElement>('[data-start]');
  const offset = caret && block ? offsetIn(block, caret.offsetNode, caret.offset) : null;
  return block && offset !== null ? startOf(block) + offset : null;
}

/** DOM ranges for a stretch, one per turn. */
export function rangesOf(root: HTMLElement, stretch: TextRange): Range[] {
  return blocks(root).flatMap((block) => {
    const length = lengthOf(block);
    const [from, to] = [Math.max(0, stretch.start - startOf(block)), Math.min(length, stretch.end - startOf(block))];
    if (from > length || to < 0 || to < from || (to === from && stretch.end > stretch.start)) return [];
    return rangeIn(block, from, to) ?? [];
  });
}

/** Two sources can be open side by side; each paints its own. */
export type Pane = 'first' | 'second';

const colours = { found: 'var(--brass-wash)', hit: 'var(--mark-focus)', selection: 'var(--mark-focus)', focus: 'var(--wash)' };
const nameOf = (what: keyof typeof colours, pane: Pane) => `vitrine-${what}-${pane}`;

// The CSS minifier does not know ::highlight(), so its rules are adopted here. They are for words alone: a rule for every element would be looked
// up twelve times for each element that comes into the page.
const painted = (name: string) => `[data-start]::highlight(${name})`;
const sheet = new CSSStyleSheet();
sheet.replaceSync(
  (Object.keys(colours) as (keyof typeof colours)[])
    .flatMap((what) => (['first', 'second'] as const).map((pane) => `${painted(nameOf(what, pane))} { background-color: ${colours[what]} }`))
    .join(' '),
);
document.adoptedStyleSheets.push(sheet);

/** Paints stretches softly under the words, without touching the text's elements. */
export function paint(what: keyof typeof colours, pane: Pane, root: HTMLElement | null, stretches: readonly TextRange[]) {
  const name = nameOf(what, pane);
  const some = stretches.filter((s) => s.end > s.start);
  if (root && some.length > 0) CSS.highlights.set(name, new Highlight(...some.flatMap((s) => rangesOf(root, s))));
  else CSS.highlights.delete(name);
}

const doubtName = (pane: Pane) => `vitrine-doubt-${pane}`;
sheet.insertRule(`${painted(doubtName('first'))}, ${painted(doubtName('second'))} { text-decoration: underline dotted 2px var(--brass) }`);

/** Underlines words that whoever wrote them down doubts. */
export function doubt(pane: Pane, root: HTMLElement | null, stretches: readonly TextRange[]) {
  if (root && stretches.length > 0) CSS.highlights.set(doubtName(pane), new Highlight(...stretches.flatMap((s) => rangesOf(root, s))));
  else CSS.highlights.delete(doubtName(pane));
}

const maskName = (pane: Pane) => `vitrine-mask-${pane}`;
sheet.insertRule(`${painted(maskName('first'))}, ${painted(maskName('second'))} { color: transparent; background-color: var(--line) }`);

/** Covers masked words; the text under the cover stays as it is. */
export function cover(pane: Pane, root: HTMLElement | null, stretches: readonly TextRange[]) {
  if (root && stretches.length > 0) CSS.highlights.set(maskName(pane), new Highlight(...stretches.flatMap((s) => rangesOf(root, s))));
  else CSS.highlights.delete(maskName(pane));
}

/** Where a stretch ends on the screen, in the root's own coordinates. */
export function placeBelow(root: HTMLElement, stretch: TextRange): { left: number; top: number } | null {
  const rects = rangesOf(root, stretch).flatMap((r) => [...r.getClientRects()]);
  const last = rects.at(-1);
  if (!last) return null;
  const base = root.getBoundingClientRect();
  return { left: last.left - base.left, top: last.bottom - base.top };
}
