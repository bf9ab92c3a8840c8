import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

const piece = 4 * 1024 * 1024;

/** A server that takes pieces, and may lose some of them on the way. */
class FakeServer {
  received = 0;
  announced = 0;
  lose: number[] = [];
  requests = 0;
  refuse = false;
  readonly bytes: number;

  constructor(bytes: number) {
    this.bytes = bytes;
  }

  private import = () => ({
    key: 'a',
    name: 'talk.wav',
    bytes: this.bytes,
    received: this.received,
    state: this.received === this.bytes ? 'waiting' : 'sending',
    progress: 0,
    said: '',
    sourceId: null,
  });

  answer = async (input: RequestInfo | URL): Promise<Response> => {
    const request = input instanceof Request ? input : new Request(new URL(String(input), 'http://vitrine.test'));
    const { pathname, searchParams } = new URL(request.url);
    if (pathname === '/api/me') return Response.json({ pageToken: 't', account: { id: 1 } });
    if (request.method === 'POST') {
      this.announced++;
      if (this.refuse)
        return Response.json({ detail: 'This file is larger than 8 GB.' }, { status: 400, headers: { 'content-type': 'application/problem+json' } });
      return Response.json(this.import());
    }
    this.requests++;
    const body = await request.arrayBuffer();
    const lost = this.lose.includes(this.requests);
    // What is lost on the way back has arrived all the same.
    if (Number(searchParams.get('from')) === this.received) this.received += body.byteLength;
    if (lost) throw new TypeError('network');
    return Response.json(this.import());
  };
}

async function start(server: FakeServer) {
  vi.stubGlobal('fetch', server.answer);
  vi.stubGlobal(
    'Request',
    class extends Request {
      constructor(input: RequestInfo | URL, init?: RequestInit) {
        super(typeof input === 'string' ? new URL(input, 'http://vitrine.test') : input, init);
      }
    },
  );
  const { sending } = await import('./sending');
  const file = new File([new Uint8Array(server.bytes)], 'talk.wav', { lastModified: 5 });
  const done = sending.add(1, [file], { kind: 'interview', folderId: null, attachment: false }, () => undefined);
  return { sending, done };
}

describe('sending a file', () => {
  beforeEach(() => {
    vi.resetModules();
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it('goes in pieces, one after the other, until all has arrived', async () => {
    const server = new FakeServer(2 * piece + 7);
    const { sending } = await start(server);
    await vi.waitFor(() => expect(server.received).toBe(server.bytes));
    await vi.waitFor(() => expect(sending.now()).toEqual([]));
    expect(server.requests).toBe(3);
  });

  it('goes on where the line broke, and sends nothing twice that has arrived', async () => {
    const server = new FakeServer(2 * piece);
    server.lose = [1];
    const { sending } = await start(server);
    await vi.waitFor(() => expect(server.requests).toBe(1));
    await vi.advanceTimersByTimeAsync(2500);
    await vi.waitFor(() => expect(sending.now()).toEqual([]));
    expect(server.received).toBe(server.bytes);
  });

  it('begins after what came in before the page was loaded anew', async () => {
    const server = new FakeServer(2 * piece);
    server.received = piece;
    const { sending } = await start(server);
    await vi.waitFor(() => expect(sending.now()).toEqual([]));
    expect(server.requests).toBe(1);
  });

  it('keeps a file that was refused in the list, with the reason, until it is put away', async () => {
    const server = new FakeServer(10);
    server.refuse = true;
    const { sending, done } = await start(server);
    await done;
    expect(sending.now()[0]!.refused).toBe('This file is larger than 8 GB.');
    sending.clear(2);
    expect(sending.now()).toHaveLength(1);
    sending.clear(1);
    expect(sending.now()).toHaveLength(0);
  });
});
