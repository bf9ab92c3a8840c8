// @vitest-environment jsdom
import { IDBFactory } from 'fake-indexeddb';
import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { NewWaiting, Waiting } from './waiting';

type Module = typeof import('./outgoing');
interface Sent {
  path: string;
  key: string | null;
  body: unknown;
}

const mark = (words: string, makes = -1): NewWaiting => ({ method: 'POST', path: '/api/sources/4/observations', body: { words }, what: words, makes });
const star = (id: number): NewWaiting => ({ method: 'PUT', path: `/api/observations/${id}/star`, body: { ids: [id] }, what: 'star' });

let server: (sent: Sent) => Response | Promise<Response>;
let sent: Sent[];
let signedIn: number;
const opened: Module['outgoing'][] = [];
const ok = (id: number | null = 77) => Response.json({ actionId: 1, label: 'Done', id });
const problem = (status: number, more: object = {}) =>
  new Response(JSON.stringify({ detail: 'No.', ...more }), { status, headers: { 'content-type': 'application/problem+json' } });

/** The page opened anew: what was in memory is gone, what the browser keeps is there. */
async function open(): Promise<Module['outgoing']> {
  vi.resetModules();
  const { outgoing } = (await import('./outgoing')) as Module;
  opened.push(outgoing);
  await outgoing.begin(1);
  return outgoing;
}

const settled = (check: () => void) => vi.waitFor(check, { timeout: 3000 });

beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.stubGlobal('BroadcastChannel', undefined);
  vi.stubGlobal(
    'Request',
    class extends Request {
      constructor(path: string, init: RequestInit) {
        super(new URL(path, 'http://vitrine.example'), init);
      }
    },
  );
  sent = [];
  signedIn = 1;
  server = () => ok();
  vi.stubGlobal('fetch', async (request: Request | string) => {
    if (typeof request === 'string') return Response.json({ pageToken: `t${signedIn}`, account: { id: signedIn } });
    if (request.headers.get('X-Vitrine-Token') !== `t${signedIn}`) return problem(400, { type: '/problems/page-too-old' });
    const one = { path: new URL(request.url).pathname, key: request.headers.get('Idempotency-Key'), body: await request.clone().json() };
    sent.push(one);
    return server(one);
  });
});

// A page that is left open goes on trying.
afterEach(() => opened.splice(0).forEach((page) => page.end()));

describe('writes that wait for the server', () => {
  it('say their place as it is said now, when an older page kept them', async () => {
    const { withAnchor } = await import('./kept');
    const older = { ...mark('One'), order: 1, key: 'k', accountId: 1, notBefore: 0, body: { start: 3, end: 9, tagIds: [7], newTags: [] } };
    expect(withAnchor(older).body).toEqual({ anchor: { kind: 'text', start: 3, end: 9 }, tagIds: [7], newTags: [] });
    expect(withAnchor({ ...older, body: null }).body).toBeNull();
  });

  it('do not go out of sight when the store was being read while they were kept', async () => {
    const outgoing = await open();
    const { kept } = await import('./kept');
    let answer = () => {};
    server = () => new Promise<Response>((done) => (answer = () => done(ok())));
    void outgoing.write(mark('One'));
    await settled(() => expect(sent).toHaveLength(1));
    // What is read next is what stood there before the second write was kept.
    const before = await kept.all();
    let read = () => {};
    vi.spyOn(kept, 'all').mockImplementationOnce(() => new Promise((done) => (read = () => done(before))));
    answer();
    await settled(() => expect(kept.all).toHaveBeenCalled());
    void outgoing.write(mark('Two', -2));
    await settled(() =>
      expect(
        outgoing
          .state()
          .waiting.filter((w) => w.what === 'Two')
          .every((w) => outgoing.isKept(w)),
      ).toBe(true),
    );
    const seen: string[][] = [];
    outgoing.subscribe(() => seen.push(outgoing.state().waiting.map((w) => w.what)));
    read();
    await settled(() => expect(sent).toHaveLength(2));
    expect(seen.every((all) => all.includes('Two'))).toBe(true);
    server = () => ok();
    answer();
    await settled(() => expect(outgoing.state().waiting).toHaveLength(0));
  });

  it('are sent once, by the server’s number, when that comes while they are being kept', async () => {
    const outgoing = await open();
    const { kept } = await import('./kept');
    let answer = () => {};
    server = () => new Promise<Response>((done) => (answer = () => done(ok(77))));
    void outgoing.write(mark('One', -1));
    await settled(() => expect(sent).toHaveLength(1));
    const keep = kept.add;
    let keepOn = () => {};
    vi.spyOn(kept, 'add').mockImplementationOnce(async (write) => {
      const order = await keep(write);
      await new Promise<void>((done) => (keepOn = done));
      return order;
    });
    void outgoing.write(star(-1));
    server = () => ok();
    answer();
    // It stands in the store by the number of its own.
    await settled(() => expect(outgoing.numberOf(-1)).toBe(77));
    keepOn();
    await settled(() => expect(outgoing.state().waiting).toHaveLength(0));
    expect(sent.slice(1).map((s) => s.path)).toEqual(['/api/observations/77/star']);
    expect(await kept.all()).toEqual([]);
  });

  it('stay in the order in which they were made, by one number each, while what came of the first is fetched', async () => {
    const outgoing = await open();
    outgoing.onAcknowledged(() => new Promise<void>(() => undefined));
    server = (one) => (one.path.endsWith('observations') ? ok(77) : Promise.reject(new TypeError('Failed to fetch')));
    const seen: string[][] = [];
    void outgoing.write(mark('One', -5));
    void outgoing.write(star(-5));
    void outgoing.write({ ...star(-5), what: 'unstar' });
    outgoing.subscribe(() => seen.push(outgoing.state().waiting.map((w) => `${w.what} ${w.path}`)));
    await settled(() => expect(outgoing.state().way).toBe('cut'));
    outgoing.tryNow();
    await settled(() => expect(outgoing.state().waiting.map((w) => w.what)).toEqual(['One', 'star', 'unstar']));
    for (const all of seen) {
      expect(all.map((w) => w.split(' ')[0])).toEqual(['One', 'star', 'unstar']);
      expect(new Set(all.slice(1).map((w) => w.split(' ')[1])).size).toBe(1);
    }
  });

  it('are shown at once, sent, and gone when what came of them was fetched', async () => {
    const outgoing = await open();
    let fetched = () => {};
    outgoing.onAcknowledged(() => new Promise<void>((done) => (fetched = done)));
    const step = outgoing.write(mark('One'));
    expect(outgoing.state().waiting.map((w) => w.what)).toEqual(['One']);
    expect(await step).toMatchObject({ id: 77 });
    expect(outgoing.state().waiting).toHaveLength(1);
    fetched();
    await settled(() => expect(outgoing.state().waiting).toHaveLength(0));
    expect(sent).toHaveLength(1);
  });

  it('survive a reload while nobody answers, and are then sent once, in order, with the keys they had', async () => {
    server = () => Promise.reject(new TypeError('Failed to fetch'));
    const before = await open();
    void before.write(mark('One', -1));
    void before.write(mark('Two', -2));
    await settled(() => expect(before.state().way).toBe('cut'));
    await settled(() => expect(before.state().waiting).toHaveLength(2));
    const key = sent[0]!.key;
    before.end();

    sent = [];
    server = () => ok();
    const after = await open();
    await settled(() => expect(after.state().waiting).toHaveLength(0));
    expect(sent.map((s) => s.body)).toEqual([{ words: 'One' }, { words: 'Two' }]);
    expect(sent[0]!.key).toBe(key);
    expect(after.state().way).toBe('open');
  });

  it('call what an earlier one made by the number that the server gave it', async () => {
    server = () => Promise.reject(new TypeError('Failed to fetch'));
    const outgoing = await open();
    void outgoing.write(mark('One', -5));
    void outgoing.write(star(-5));
    await settled(() => expect(outgoing.state().way).toBe('cut'));
    server = () => ok(123);
    outgoing.tryNow();
    await settled(() => expect(sent.at(-1)).toMatchObject({ path: '/api/observations/123/star', body: { ids: [123] } }));
  });

  it('call it so when they are made after the server’s answer, too', async () => {
    server = () => ok(123);
    const outgoing = await open();
    await outgoing.write(mark('One', -5));
    expect(outgoing.numberOf(-5)).toBe(123);
    await outgoing.write(star(-5));
    expect(sent.at(-1)).toMatchObject({ path: '/api/observations/123/star', body: { ids: [123] } });
  });

  it('are dropped with all that rests on them when the server refuses them', async () => {
    server = (one) => (one.path.endsWith('observations') ? problem(404) : ok());
    const outgoing = await open();
    const refusals: string[] = [];
    outgoing.onRefused((write) => refusals.push(write.what));
    const first = outgoing.write(mark('One', -5));
    void outgoing.write(star(-5)).catch(() => undefined);
    await expect(first).rejects.toThrow('No.');
    await settled(() => expect(outgoing.state().waiting).toHaveLength(0));
    expect(refusals).toEqual(['One']);
    expect(sent).toHaveLength(1);
  });

  it('wait while the sign-in has ended, and say so', async () => {
    server = () => problem(401);
    const outgoing = await open();
    void outgoing.write(mark('One'));
    await settled(() => expect(outgoing.state()).toMatchObject({ way: 'signed out', waiting: [{ what: 'One' }] }));
  });

  it('are not sent as someone else who signs in beside them, and are when their own person is back', async () => {
    const outgoing = await open();
    await outgoing.write(mark('One'));
    signedIn = 2;
    void outgoing.write(mark('Two'));
    await settled(() => expect(outgoing.state()).toMatchObject({ way: 'signed out' }));
    expect(sent.map((s) => s.body)).toEqual([{ words: 'One' }]);
    signedIn = 1;
    await outgoing.begin(1);
    await settled(() => expect(sent.map((s) => s.body)).toEqual([{ words: 'One' }, { words: 'Two' }]));
  });

  it('take with them, when taken back, what was written about them', async () => {
    server = () => Promise.reject(new TypeError('Failed to fetch'));
    const outgoing = await open();
    void outgoing.write(mark('One', -5));
    await outgoing.type('/api/observations/-5/note', '/api/observations/-5/note', 'Note', '', 'a note', 0);
    await settled(() => expect(outgoing.state().way).toBe('cut'));
    expect(await outgoing.takeBack()).toBe('One');
    expect(outgoing.state().waiting).toHaveLength(0);
  });

  it('can be taken back while they have not been sent', async () => {
    server = () => Promise.reject(new TypeError('Failed to fetch'));
    const outgoing = await open();
    expect(await outgoing.takeBack()).toBeNull();
    void outgoing.write(mark('One'));
    await settled(() => expect(outgoing.state().way).toBe('cut'));
    await settled(async () => expect(await outgoing.takeBack()).toBe('One'));
    expect(outgoing.state().waiting).toHaveLength(0);
  });
});

describe('a text that is being written', () => {
  const path = '/api/insights/3/story';
  const text = (w: Waiting | undefined) => w?.text?.now;

  it('is one write, sent when the typing pauses', async () => {
    const outgoing = await open();
    void outgoing.type(path, path, 'Story', 'was', 'wri', 60);
    expect(text(outgoing.state().waiting[0])).toBe('wri');
    await outgoing.type(path, path, 'Story', 'was', 'written', 60);
    expect(outgoing.state().waiting).toHaveLength(1);
    await settled(() => expect(outgoing.state().waiting).toHaveLength(0));
    expect(sent.map((s) => s.body)).toEqual([{ text: 'written', was: 'was' }]);
  });

  it('goes on from what is being sent', async () => {
    let answer: (response: Response) => void = () => undefined;
    server = () => new Promise((done) => (answer = done));
    const outgoing = await open();
    await outgoing.type(path, path, 'Story', 'was', 'one', 0);
    await settled(() => expect(sent).toHaveLength(1));
    await outgoing.type(path, path, 'Story', 'was', 'one two', 0);
    answer(ok());
    await settled(() => expect(sent).toHaveLength(2));
    expect(sent[1]!.body).toEqual({ text: 'one two', was: 'one' });
  });

  it('is kept beside another’s, until its writer has chosen', async () => {
    server = () => problem(409, { theirs: 'theirs' });
    const outgoing = await open();
    await outgoing.type(path, path, 'Story', 'was', 'mine', 0);
    await settled(() => expect(outgoing.state().waiting[0]?.clash).toEqual({ sentence: 'No.', theirs: 'theirs' }));
    expect(sent).toHaveLength(1);
    server = () => ok();
    await outgoing.choose(outgoing.state().waiting[0]!.order, 'mine');
    await settled(() => expect(outgoing.state().waiting).toHaveLength(0));
    expect(sent.at(-1)!.body).toEqual({ text: 'mine', was: 'theirs' });
  });

  it('does not quarrel with itself when an answer was lost', async () => {
    server = () => Promise.reject(new TypeError('Failed to fetch'));
    const outgoing = await open();
    await outgoing.type(path, path, 'Story', 'was', 'one', 0);
    await settled(() => expect(outgoing.state().way).toBe('cut'));
    await outgoing.type(path, path, 'Story', 'was', 'one two', 0);
    server = (one) => ((one.body as { was: string }).was === 'was' ? problem(409, { theirs: 'one' }) : ok());
    outgoing.tryNow();
    await settled(() => expect(sent.at(-1)!.body).toEqual({ text: 'one two', was: 'one' }));
    expect(outgoing.state().waiting.every((w) => !w.clash)).toBe(true);
  });

  it('loses no letter that is typed while the browser’s store is read', async () => {
    const page = await open();
    const type = (now: string) => page.type('story', '/api/insights/1/story', 'Story', '', now, 10_000);
    await type('They');
    const seen: string[] = [];
    page.subscribe(() => seen.push(page.state().waiting[0]?.text?.now ?? ''));
    page.tryNow();
    void type('They w');
    await new Promise((done) => setTimeout(done, 100));
    expect(seen.length).toBeGreaterThan(1);
    expect(new Set(seen)).toEqual(new Set(['They w']));
  });

  it('has every letter that was typed before the page was left, also those that the browser’s store did not get', async () => {
    server = () => Promise.reject(new TypeError('no way'));
    const page = await open();
    await page.type('story', path, 'Story', 'was', 'They wai', 10_000);
    const { kept } = await import('./kept');
    vi.spyOn(kept, 'put').mockImplementation(() => new Promise(() => undefined));
    void page.type('story', path, 'Story', 'was', 'They wait', 10_000);
    page.end();
    const after = await open();
    await settled(() => expect(text(after.state().waiting[0])).toBe('They wait'));
    expect(after.state().waiting).toHaveLength(1);
    expect(after.state().waiting[0]!.text!.was).toBe('was');
    // Once it is kept, nothing is left to be found again.
    await settled(() => expect(localStorage).toHaveLength(0));
  });

  it('takes back for good what was not even kept yet', async () => {
    const page = await open();
    server = () => {
      throw new TypeError('no way');
    };
    void page.write(mark('first'));
    await settled(() => expect(page.state().way).toBe('cut'));
    void page.write(mark('slip', -2));
    expect(await page.takeBack()).toBe('slip');
    await new Promise((done) => setTimeout(done, 80));
    page.tryNow();
    await new Promise((done) => setTimeout(done, 80));
    expect(page.state().waiting.map((w) => w.what)).toEqual(['first']);
    page.end();
    expect((await open()).state().waiting.map((w) => w.what)).toEqual(['first']);
  });
});
