/** A text field as it was typed last. */
export interface Typed {
  accountId: number;
  path: string;
  what: string;
  was: string;
  now: string;
  /** Whether it is a text in blocks, as JSON. */
  rich?: true;
}

const prefix = 'vitrine-typed ';

/**
 * The last letters of a text, until the browser's store has them: that takes some milliseconds, and whoever leaves the page meanwhile would lose them.
 * Where a browser keeps nothing, they are in the page alone.
 */
export const typedLast = {
  note: (field: string, typed: Typed) => {
    try {
      localStorage.setItem(prefix + field, JSON.stringify(typed));
    } catch {
      // Full, or switched off.
    }
  },
  /** The store has it. */
  kept: (field: string, now: string) => {
    if (typedLast.of(field)?.now === now) localStorage.removeItem(prefix + field);
  },
  of: (field: string): Typed | null => {
    try {
      return JSON.parse(localStorage.getItem(prefix + field) ?? 'null') as Typed | null;
    } catch {
      return null;
    }
  },
  fields: (): string[] => {
    try {
      return Object.keys(localStorage).flatMap((key) => (key.startsWith(prefix) ? [key.slice(prefix.length)] : []));
    } catch {
      return [];
    }
  },
};
