/** What is dragged in Mark: a tag of the shelf, or words with what becomes of them where they are dropped. */
export type Dragged = { drags: 'tag'; tagId: number; name: string } | { drags: 'words'; name: string; onto: Onto };

/** What becomes of words, or of a mark, that are dropped. */
export interface Onto {
  tag: (tagId: number) => void;
  newTag: () => void;
  theme: (themeId: number) => void;
  insight: (insightId: number) => void;
}

/** What it is dropped on. */
export type Over = { tag: number; before?: true } | { shelf: true } | { theme: number } | { insight: number };

/** A text on which a tag can be dropped. */
export interface Reader {
  /** Shows what a tag would be given to here; null for elsewhere. */
  aim: (at: { x: number; y: number } | null) => void;
  drop: (at: { x: number; y: number }, tagId: number) => void;
}

const readers = new Map<HTMLElement, Reader>();

/** Makes a text known to what is dragged; call what it returns when it goes. */
export function offer(root: HTMLElement, reader: Reader): () => void {
  readers.set(root, reader);
  return () => void readers.delete(root);
}

/** The text under a point of the window. */
export function readerAt(x: number, y: number): Reader | undefined {
  const under = document.elementFromPoint(x, y);
  return [...readers].find(([root]) => root.contains(under))?.[1];
}

export function aimNowhere() {
  for (const reader of readers.values()) reader.aim(null);
}
