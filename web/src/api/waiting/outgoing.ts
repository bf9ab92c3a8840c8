import { forgetSession, Refusal, send, type Step } from '../client';
import { kept } from './kept';
import { typedLast } from './typedLast';
import { bodyOf, mentions, nextOf, resolved, type NewWaiting, type Rewritten, type Waiting } from './waiting';

/** How the way to the server is: open, nobody answers, or the sign-in has ended. */
export type Way = 'open' | 'cut' | 'signed out';

export interface Outgoing {
  waiting: readonly Waiting[];
  way: Way;
}

type Acknowledged = (write: Waiting, step: Step) => void | Promise<void>;
type Refused = (write: Waiting, problem: Refusal) => void;

const pauses = [300, 600, 1200, 2500, 5000];
const lock = 'vitrine-outgoing';
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(lock);

let accountId: number | null = null;
let state: Outgoing = { waiting: [], way: 'open' };
let sending: number | null = null;
let running = false;
let failures = 0;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();
const onAcknowledged = new Set<Acknowledged>();
const onRefused = new Set<Refused>();
const answers = new Map<string, { done: (step: Step) => void; refused: (problem: Refusal) => void }>();

/** Keys of writes that are shown and not kept, and not to be sent: not kept yet; acknowledged, and what came of them not fetched yet. */
const unkept = new Set<string>();
const settled = new Set<string>();
/** What is not kept yet comes after all that is, each in a place of its own. */
const lastOfKept = Number.MAX_SAFE_INTEGER / 2;
let added = 0;
/** Keys of writes that were taken back before they were kept. */
const takenBack = new Set<string>();
/** What the server's numbers are for what was called by a number of its own. */
const became = new Map<number, number>();
const passing = (write: Waiting) => unkept.has(write.key) || settled.has(write.key);

function change(next: Partial<Outgoing>) {
  state = { ...state, ...next };
  for (const listener of listeners) listener();
}

/** Writes that were changed or dropped here, in the order that this happened: what was being read from the browser's store meanwhile is older. */
let changes = 0;
const changedAt = new Map<number, number>();
const noteChange = (order: number) => changedAt.set(order, ++changes);

/** What is about things that the server has numbered meanwhile, by those numbers: it may have been kept before they were known. */
const numbered = <W extends Omit<Waiting, 'order'>>(write: W): W =>
  [...became].reduce<W>((w, [own, id]) => (mentions(w, own) ? resolved(w, own, id) : w), write);

async function refresh() {
  const from = changes;
  const all = await kept.all().catch(() => state.waiting.filter((w) => !passing(w)));
  const newer = (order: number) => (changedAt.get(order) ?? 0) > from;
  const mine = all
    .filter((w) => w.accountId === accountId)
    .flatMap((w) => (newer(w.order) ? state.waiting.filter((shown) => shown.order === w.order) : [numbered(w)]));
  const keys = new Set(mine.map((w) => w.key));
  // Kept while the store was being read, it is not in what was read. Each stands where it was made: a move is of what was marked before it.
  const rest = state.waiting.filter((w) => (passing(w) || newer(w.order)) && !keys.has(w.key));
  change({ waiting: [...mine, ...rest].toSorted((a, b) => a.order - b.order) });
}

async function drop(order: number) {
  noteChange(order);
  const unborn = state.waiting.find((w) => w.order === order && unkept.has(w.key));
  if (unborn) takenBack.add(unborn.key);
  // Gone from here first: what is being read from the store meanwhile does not bring it back.
  change({ waiting: state.waiting.filter((w) => w.order !== order) });
  await kept.drop(order).catch(() => undefined);
  channel?.postMessage('changed');
}

/** Drops a write with all that is about what it would have made. */
async function dropWithRest(write: Waiting) {
  const resting = write.makes === undefined ? [] : state.waiting.filter((w) => w !== write && mentions(w, write.makes!));
  for (const one of [write, ...resting]) await drop(one.order);
}

async function put(changed: Waiting) {
  // It may have been kept, and got its place, since it was looked at; or be gone.
  const there = state.waiting.find((w) => w.order === changed.order || w.key === changed.key);
  if (!there) return;
  const write = { ...changed, order: there.order };
  noteChange(write.order);
  change({ waiting: state.waiting.map((w) => (w === there ? write : w)) });
  if (unkept.has(write.key)) return;
  await kept.put(write).catch(() => undefined);
  channel?.postMessage('changed');
}

async function answerTo(write: Waiting): Promise<Step> {
  const request = new Request(write.path, {
    method: write.method,
    headers: { 'content-type': 'application/json', 'Idempotency-Key': write.key },
    ...(write.method === 'DELETE' ? {} : { body: JSON.stringify(write.body ?? {}) }),
  });
  const response = await send(request, write.accountId).catch((problem: unknown) => {
    throw problem instanceof Refusal ? problem : new Refusal('', 0);
  });
  if (response.ok) return (await response.json()) as Step;
  const problem = (await response.json().catch(() => ({}))) as { detail?: string; theirs?: string };
  throw new Refusal(problem.detail ?? `The server answered ${response.status}.`, response.status, undefined, problem.theirs);
}

/** Whether a failure says nothing about the write itself, which then goes on waiting. */
const later = (status: number) => status === 0 || status === 401 || status === 429 || status >= 500;

async function acknowledged(write: Waiting, step: Step) {
  if (write.makes !== undefined && step.id !== null) {
    became.set(write.makes, step.id);
    const [own, id] = [write.makes, step.id];
    const resting = state.waiting.filter((w) => w.order !== write.order && mentions(w, own));
    // All at once: between two of them nothing would be said of what was made.
    change({ waiting: state.waiting.map((w) => (w.order === write.order || resting.includes(w) ? resolved(w, own, id) : w)) });
    for (const { key } of resting) {
      const there = state.waiting.find((w) => w.key === key);
      if (there) await put(there);
    }
  }
  settled.add(write.key);
  change({});
  await kept.drop(write.order).catch(() => undefined);
  answers.get(write.key)?.done(step);
  answers.delete(write.key);
  // It is shown until what the server made of it is there to be shown.
  void Promise.allSettled([...onAcknowledged].map((tell) => tell(write, step))).then(() => {
    settled.delete(write.key);
    return drop(write.order);
  });
}

/** An empty text in blocks, as it stands where nothing is written. */
const noText = '{"version":1,"blocks":[]}';

async function refused(write: Waiting, problem: Refusal) {
  if (write.text) {
    // By the browser's own spelling, so that it can be known again.
    const theirs = problem.theirs !== undefined && write.text.rich ? JSON.stringify(JSON.parse(problem.theirs || noText)) : problem.theirs;
    if (theirs === undefined || !write.text.tried.includes(theirs)) return put({ ...write, clash: { sentence: problem.message, theirs: theirs ?? null } });
    // An attempt that got no answer had arrived: what stands there is one's own.
    const text = { ...write.text, was: theirs };
    return put({ ...write, key: crypto.randomUUID(), text, body: bodyOf(text) });
  }
  await dropWithRest(write);
  answers.get(write.key)?.refused(problem);
  answers.delete(write.key);
  for (const tell of onRefused) tell(write, problem);
}

const nextNow = () =>
  nextOf(
    state.waiting.filter((w) => !passing(w)),
    Date.now(),
  );

/** One write at a time, in the order made, from one tab at a time. */
async function sendAll() {
  for (;;) {
    await refresh();
    const next = nextNow();
    if (!next) return;
    if ('at' in next) return again(next.at - Date.now());
    let write = next.send;
    sending = write.order;
    try {
      if (write.text && !write.text.tried.includes(write.text.now)) {
        write = { ...write, text: { ...write.text, tried: [...write.text.tried, write.text.now] } };
        await put(write);
      }
      const step = await answerTo(write);
      failures = 0;
      if (state.way !== 'open') change({ way: 'open' });
      await acknowledged(write, step);
    } catch (problem) {
      const status = problem instanceof Refusal ? problem.status : 0;
      if (later(status)) {
        if (status === 401) forgetSession();
        change({ way: status === 401 ? 'signed out' : 'cut' });
        return again(pauses[Math.min(failures++, pauses.length - 1)]!);
      }
      failures = 0;
      change({ way: 'open' });
      await refused(write, problem as Refusal);
    } finally {
      sending = null;
    }
  }
}

function again(after: number) {
  clearTimeout(timer);
  timer = setTimeout(() => void flush(), Math.max(0, after));
}

async function flush() {
  if (running || accountId === null) return;
  running = true;
  clearTimeout(timer);
  try {
    await ('locks' in navigator ? navigator.locks.request(lock, sendAll) : sendAll());
  } finally {
    running = false;
    // Something may have been added after the last look.
    const next = nextNow();
    if (state.way === 'open' && next && 'send' in next) void flush();
  }
}

/** Shown at once, kept a moment later. */
async function add(write: NewWaiting, notBefore: number): Promise<string> {
  const made = numbered<Omit<Waiting, 'order'>>({ ...write, key: crypto.randomUUID(), accountId: accountId ?? 0, notBefore });
  const provisional: Waiting = { ...made, order: lastOfKept + ++added };
  unkept.add(made.key);
  change({ waiting: [...state.waiting, provisional] });
  const order = await kept.add(made).catch(() => Date.now());
  unkept.delete(made.key);
  noteChange(order);
  if (takenBack.has(made.key)) {
    await kept.drop(order).catch(() => undefined);
    return made.key;
  }
  // What was typed while it was being kept is in the shown one.
  const shown = state.waiting.find((w) => w.key === made.key) ?? provisional;
  change({ waiting: state.waiting.map((w) => (w === shown ? { ...shown, order } : w)) });
  // Read from the store meanwhile, it may be sent and gone from there already.
  if (shown !== provisional && shown.order !== order) await kept.put({ ...shown, order }).catch(() => undefined);
  channel?.postMessage('changed');
  return made.key;
}

/** Writes that wait for the server's word: shown at once, kept in the browser over a reload, and sent once, in order. */
export const outgoing = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  state: () => state,
  /** Whether it would outlive the page. */
  isKept: (write: Waiting): boolean => !unkept.has(write.key),
  /** The number that the server gave to what was called by one of its own; the same when it has not. */
  numberOf: (id: number): number => became.get(id) ?? id,
  /** Whose writes are sent; called when it is known who is signed in. */
  begin: async (account: number) => {
    accountId = account;
    forgetSession();
    change({ way: 'open' });
    await refresh();
    // Letters that the store did not get before the page was left.
    for (const field of typedLast.fields()) {
      const typed = typedLast.of(field);
      if (typed?.accountId === account) void outgoing.type(field, typed.path, typed.what, typed.was, typed.now, 0, typed.rich && 'rich');
    }
    void flush();
  },
  /** Nobody is signed in any more; what waits stays in the browser for its person. */
  end: () => {
    accountId = null;
    change({ waiting: [], way: 'open' });
  },
  /** Sends a write, or keeps it until it can be sent. The promise is for this page alone: it is never settled when the page is left first. */
  write: (write: NewWaiting): Promise<Step> =>
    new Promise((done, refused) => {
      void add(write, 0).then((key) => {
        answers.set(key, { done, refused });
        void flush();
      });
    }),
  /** Takes up what stands in a text field; it is sent after a pause in the typing. */
  type: async (field: string, path: string, what: string, was: string, now: string, pause: number, form?: 'rich') => {
    const notBefore = Date.now() + pause;
    // Only what is kept is sent, so the sending is arranged after the keeping.
    const arrange = () => again(notBefore - Date.now());
    const same = state.waiting.filter((w) => w.field === field && w.text);
    const before = same.findLast((w) => w.order !== sending && !settled.has(w.key));
    const from = same.at(-1)?.text?.now ?? was;
    const rich: Pick<Rewritten, 'rich'> = form ? { rich: true } : {};
    typedLast.note(field, { accountId: accountId ?? 0, path, what, was: before?.text?.was ?? from, now, ...rich });
    if (before?.text) {
      const text = { ...before.text, now };
      const write = { ...before, key: unkept.has(before.key) ? before.key : crypto.randomUUID(), text, body: bodyOf(text), notBefore };
      if (unkept.has(before.key)) {
        change({ waiting: state.waiting.map((w) => (w === before ? write : w)) });
        return arrange();
      }
      await put(write);
      typedLast.kept(field, now);
      return arrange();
    }
    const text = { was: from, now, tried: [], ...rich };
    await add({ method: 'PUT', path, body: bodyOf(text), what, field, text }, notBefore);
    typedLast.kept(field, state.waiting.findLast((w) => w.field === field)?.text?.now ?? now);
    arrange();
  },
  /** The person has chosen which text stands; null for what stands there now. */
  choose: async (order: number, text: string | null) => {
    const write = state.waiting.find((w) => w.order === order);
    if (!write?.text || text === null || text === write.clash?.theirs) return drop(order);
    const { clash, ...rest } = write;
    const chosen = { ...write.text, was: clash?.theirs ?? write.text.was, now: text, tried: [] };
    await put({ ...rest, key: crypto.randomUUID(), text: chosen, body: bodyOf(chosen), notBefore: 0 });
    void flush();
  },
  /** The person does not want it sent. */
  drop: async (order: number) => {
    const write = state.waiting.find((w) => w.order === order);
    if (write) await dropWithRest(write);
  },
  /** Takes back the latest mark that could not be sent; its words, or null when there is none. */
  takeBack: async (): Promise<string | null> => {
    const last = state.way === 'open' ? undefined : state.waiting.findLast((w) => !w.text && w.order !== sending);
    if (!last) return null;
    await dropWithRest(last);
    return last.what;
  },
  /** Resolves when every step that was made before has been acknowledged or refused; at once when the way is cut. A text that is being typed is no step yet. */
  acknowledged: (): Promise<void> =>
    new Promise((done) => {
      const before = new Set(state.waiting.filter((w) => !w.text).map((w) => w.key));
      const look = () => {
        if (state.way === 'open' && state.waiting.some((w) => before.has(w.key) && !settled.has(w.key))) return;
        listeners.delete(look);
        done();
      };
      listeners.add(look);
      look();
    }),
  /** The way may be open again: a line was made, the network is back, someone asks. */
  tryNow: () => {
    failures = 0;
    void flush();
  },
  /** The server was heard, or not, by other means than a write. */
  heard: (way: Way) => {
    if (state.way !== way) change({ way });
    if (way === 'open') outgoing.tryNow();
  },
  /** Called with each write that the server has acknowledged; it is shown as waiting until this is done. */
  onAcknowledged: (tell: Acknowledged) => {
    onAcknowledged.add(tell);
    return () => void onAcknowledged.delete(tell);
  },
  onRefused: (tell: Refused) => {
    onRefused.add(tell);
    return () => void onRefused.delete(tell);
  },
};

channel?.addEventListener('message', () => void refresh());
if (typeof window !== 'undefined') {
  window.addEventListener('online', () => outgoing.tryNow());
  // Closed in the moment before a write is kept, the page would take it along.
  window.addEventListener('beforeunload', (event) => {
    if (unkept.size > 0) event.preventDefault();
  });
}
