/** A text as it was seen and as it is now. */
export interface Rewritten {
  was: string;
  now: string;
  /** What an attempt without an answer may have left on the server. */
  tried: string[];
  /** Whether they are texts in blocks, kept here as JSON. */
  rich?: true;
}

/** The body of a request that writes a text. */
export const bodyOf = ({ was, now, rich }: Rewritten): unknown => (rich ? { text: JSON.parse(now), was: JSON.parse(was) } : { text: now, was });

/** A write that has not been acknowledged yet. It is kept in the browser until it is. */
export interface Waiting<Shown = unknown> {
  /** The order in which writes were made. */
  order: number;
  /** Sent with every attempt, so that the server does it once. */
  key: string;
  accountId: number;
  method: 'POST' | 'PUT' | 'DELETE';
  path: string;
  body: unknown;
  /** What it is, in words. */
  what: string;
  /** Not to be sent before this moment (milliseconds): a text waits for a pause in the typing. */
  notBefore: number;
  /** The number by which other waiting writes call what this one makes; negative. */
  makes?: number;
  /** The text field it is about; a later text of the same field takes its place. */
  field?: string;
  text?: Rewritten;
  /** Someone else's text, or why it was refused: the person chooses. */
  clash?: { sentence: string; theirs: string | null };
  /** For a room: what to show until the server has answered. */
  shown?: Shown;
}

export type NewWaiting<Shown = unknown> = Omit<Waiting<Shown>, 'order' | 'key' | 'accountId' | 'notBefore'>;

/** The write that is to be sent now, or the moment at which one will be; nothing when all that is left waits for the person. */
export function nextOf(waiting: readonly Waiting[], now: number): { send: Waiting } | { at: number } | null {
  const able = waiting.filter((w) => !w.clash);
  const due = able.find((w) => w.notBefore <= now && !needsAnother(w, able));
  if (due) return { send: due };
  return able.length > 0 ? { at: Math.min(...able.map((w) => w.notBefore)) } : null;
}

const needsAnother = (one: Waiting, all: readonly Waiting[]) => all.some((w) => w.makes !== undefined && w.order < one.order && mentions(one, w.makes));

/** Whether a write is about what another one makes. */
export const mentions = (one: Pick<Waiting, 'path' | 'body'>, made: number): boolean => one.path.split('/').includes(String(made)) || inside(one.body, made);

const inside = (value: unknown, made: number): boolean =>
  value === made || (typeof value === 'object' && value !== null && Object.values(value).some((v) => inside(v, made)));

/** The same write, calling by its real number what it called by a number of its own. */
export const resolved = <W extends Pick<Waiting, 'path' | 'body' | 'shown'>>(one: W, made: number, id: number): W => ({
  ...one,
  path: one.path
    .split('/')
    .map((part) => (part === String(made) ? String(id) : part))
    .join('/'),
  body: replaced(one.body, made, id),
  shown: replaced(one.shown, made, id),
});

function replaced(value: unknown, made: number, id: number): unknown {
  if (value === made) return id;
  if (Array.isArray(value)) return value.map((v) => replaced(v, made, id));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, replaced(v, made, id)]));
}
