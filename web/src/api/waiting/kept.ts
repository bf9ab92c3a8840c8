import { openDB, type IDBPDatabase } from 'idb';
import type { Waiting } from './waiting';

const store = 'writes';

/** A mark that was kept by a page from before there were anchors says its place by two numbers. */
export function withAnchor(write: Waiting): Waiting {
  const { start, end, ...rest } = (write.body ?? {}) as { start?: number; end?: number };
  if (typeof start !== 'number' || typeof end !== 'number') return write;
  const path = write.path.replace(/\/range$/, '/anchor');
  return { ...write, path, body: { anchor: { kind: 'text', start, end }, ...rest } };
}

/** A mark that was kept by a page from before a place told by its names what it is a place in has it from its anchor. */
export function withPlace(write: Waiting): Waiting {
  const shown = write.shown as { kind?: string; at?: unknown } | undefined;
  const anchor = (write.body as { anchor?: { kind: string; start: number; end: number; beginMs: number; endMs: number } } | null)?.anchor;
  if (!shown || !anchor || (shown.kind !== 'mark' && shown.kind !== 'move') || shown.at !== undefined) return write;
  const { kind, ...box } = anchor;
  const at = kind === 'text' ? { start: anchor.start, end: anchor.end } : kind === 'time' ? { beginMs: anchor.beginMs, endMs: anchor.endMs } : { box };
  return { ...write, shown: { ...shown, at } };
}

let opened: Promise<IDBPDatabase> | null = null;
const database = () =>
  (opened ??= openDB('vitrine', 3, {
    upgrade: async (db, from, _to, transaction) => {
      if (from === 0) db.createObjectStore(store, { keyPath: 'order', autoIncrement: true });
      else
        for (const write of (await transaction.objectStore(store).getAll()) as Waiting[])
          await transaction.objectStore(store).put(withPlace(withAnchor(write)));
    },
    // Another tab with a newer version of the page waits for this one to let go.
    blocking: () => {
      void opened?.then((db) => db.close());
      opened = null;
    },
  }));

/** What the browser keeps until the server has acknowledged it. Where a browser keeps nothing (a private window of some), the writes are in the page alone. */
export const kept = {
  all: async (): Promise<Waiting[]> => (await (await database()).getAll(store)) as Waiting[],
  /** Keeps a new write and gives it its place in the order. */
  add: async (write: Omit<Waiting, 'order'>): Promise<number> => Number(await (await database()).add(store, write)),
  put: async (write: Waiting): Promise<void> => void (await (await database()).put(store, write)),
  drop: async (order: number): Promise<void> => (await database()).delete(store, order),
};
