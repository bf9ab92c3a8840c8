/** A text that is being corrected, kept in this browser until it is sent: by source and by the text that it corrects. */
const prefix = (sourceId: number) => `vitrine correction ${sourceId} `;
const keyOf = (sourceId: number, basedOn: string) => prefix(sourceId) + basedOn;

export const draft = {
  of(sourceId: number, basedOn: string): string | null {
    try {
      return localStorage.getItem(keyOf(sourceId, basedOn));
    } catch {
      return null;
    }
  },
  /** What was begun on a text that has been corrected by someone else since: the text that it was based on, and what was typed. */
  older(sourceId: number, basedOn: string): { basedOn: string; text: string } | null {
    try {
      const key = Object.keys(localStorage).find((k) => k.startsWith(prefix(sourceId)) && k !== keyOf(sourceId, basedOn));
      return key === undefined ? null : { basedOn: key.slice(prefix(sourceId).length), text: localStorage.getItem(key) ?? '' };
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
