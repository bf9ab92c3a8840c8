import type { Stretch } from './moves';

/** Every turn is one `[data-start]` element with one text node, so a position in the text is a turn and an offset. */
const blocks = (root: HTMLElement) => [...root.querySelectorAll<HTMLElement>('[data-start]')];
const startOf = (block: HTMLElement) => Number(block.dataset['start']);

/** What the mouse has selected, as a stretch of the source's text; null when it holds no words. */
export function selectedStretch(root: HTMLElement): Stretch | null {
  const selection = window.getSelection();
  if (!selection || selection.rangeCount === 0 || selection.isCollapsed) return null;
  const range = selection.getRangeAt(0);
  let found = null as Stretch | null;
  for (const block of blocks(root)) {
    const node = block.firstChild;
    if (!node || !range.intersectsNode(node)) continue;
    const from = range.startContainer === node ? range.startOffset : 0;
    const to = range.endContainer === node ? range.endOffset : (node.textContent ?? '').length;
    if (to <= from) continue;
    found = { start: found?.start ?? startOf(block) + from, end: startOf(block) + to };
  }
  return found;
}

/** The position under a point of the window; null when there are no words there. */
export function positionAt(x: number, y: number): number | null {
  const caret = document.caretPositionFromPoint(x, y);
  const block = caret?.offsetNode.parentElement?.closest<HTMLElement>('[data-start]');
  return caret && block ? startOf(block) + caret.offset : null;
}

/** DOM ranges for a stretch, one per turn. */
export function rangesOf(root: HTMLElement, stretch: Stretch): Range[] {
  return blocks(root).flatMap((block) => {
    const node = block.firstChild;
    if (!node) return [];
    const length = (node.textContent ?? '').length;
    const [from, to] = [Math.max(0, stretch.start - startOf(block)), Math.min(length, stretch.end - startOf(block))];
    if (from > length || to < 0 || to < from || (to === from && stretch.end > stretch.start)) return [];
    const range = document.createRange();
    range.setStart(node, from);
    range.setEnd(node, to);
    return [range];
  });
}

// The CSS minifier does not know ::highlight(), so its two rules are adopted here.
const sheet = new CSSStyleSheet();
sheet.replaceSync('::highlight(vitrine-selection) { background-color: var(--mark-focus) } ::highlight(vitrine-focus) { background-color: var(--wash) }');
document.adoptedStyleSheets.push(sheet);

/** Paints a stretch softly under the words, without touching the text's elements. */
export function paint(name: 'vitrine-selection' | 'vitrine-focus', root: HTMLElement | null, stretch: Stretch | null) {
  if (root && stretch && stretch.end > stretch.start) CSS.highlights.set(name, new Highlight(...rangesOf(root, stretch)));
  else CSS.highlights.delete(name);
}

/** Where a stretch ends on the screen, in the root's own coordinates. */
export function placeBelow(root: HTMLElement, stretch: Stretch): { left: number; top: number } | null {
  const rects = rangesOf(root, stretch).flatMap((r) => [...r.getClientRects()]);
  const last = rects.at(-1);
  if (!last) return null;
  const base = root.getBoundingClientRect();
  return { left: last.left - base.left, top: last.bottom - base.top };
}
