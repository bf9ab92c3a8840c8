/** A text that is being corrected, kept in this browser until it is sent: by source and by the text that it corrects. */
const keyOf = (sourceId: number, basedOn: string) => `vitrine correction ${sourceId} ${basedOn}`;

export const draft = {
  of(sourceId: number, basedOn: string): string | null {
    try {
      return localStorage.getItem(keyOf(sourceId, basedOn));
    } catch {
      return null;
    }
  },
  keep(sourceId: number, basedOn: string, text: string) {
    try {
      localStorage.setItem(keyOf(sourceId, basedOn), text);
    } catch {
      // A browser that keeps nothing, or no more: the text stays on the page.
    }
  },
  drop(sourceId: number, basedOn: string) {
    try {
      localStorage.removeItem(keyOf(sourceId, basedOn));
    } catch {
      // It was not kept.
    }
  },
};
