import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Step = Schemas['Step'];

const tokenHeader = 'X-Vitrine-Token';
/** Whom the server takes this page to be, with the token that writes carry to prove that they come from it. */
interface Session {
  token: string;
  accountId: number | null;
}
let session: Promise<Session> | null = null;

/** Requests after which someone else is signed in, or nobody. */
const anotherPerson = /\/api\/(set-up|sign-in|sign-out|demo\/sign-in|join\/|me\/)/;

const newSession = () =>
  (session = fetch('/api/me')
    .then((answer) => answer.json() as Promise<Schemas['Me']>)
    .then((me) => ({ token: me.pageToken, accountId: me.account?.id ?? null }))
    .catch((problem: unknown) => {
      session = null;
      throw problem;
    }));

/** Whoever was signed in, it is asked again. */
export const forgetSession = () => {
  session = null;
};

/**
 * Sends a request; a write carries the page's token, fetched anew when it was for another sign-in.
 * The cookie of someone else, who has signed in in another tab, carries no write of this page's person; with `as`, that person is named.
 */
export async function send(request: Request, as?: number): Promise<Response> {
  if (request.method === 'GET') return fetch(request);
  const again = request.clone();
  const attempt = async (one: Request, { token, accountId }: Session, by: number | null) => {
    if (by !== null && accountId !== by) throw new Refusal('Someone else is signed in in this browser now. Reload the page.', 401);
    one.headers.set(tokenHeader, token);
    return fetch(one);
  };
  const known = await (session ?? newSession());
  const answer = await attempt(request, known, as ?? null);
  if (answer.ok && anotherPerson.test(request.url)) forgetSession();
  if (answer.status !== 400 || !answer.headers.get('content-type')?.includes('problem')) return answer;
  const problem = (await answer.clone().json()) as { type?: string };
  if (problem.type !== '/problems/page-too-old') return answer;
  return attempt(again, await newSession(), as ?? known.accountId);
}

/** The API, typed by the server's OpenAPI document. */
export const api = createClient<paths>({ baseUrl: '', fetch: (request) => send(request) });

/** What several writes carry that are one step for the person: they are taken back together. */
export const oneStep = () => ({ 'Step-Together': crypto.randomUUID() });

/** What the server refused, in a sentence for the person. */
export class Refusal extends Error {
  constructor(
    sentence: string,
    readonly status: number,
    readonly field?: string,
    /** The text that stands there, when someone else wrote it meanwhile. */
    readonly theirs?: string,
  ) {
    super(sentence);
  }
}

const unreachable = 'The server cannot be reached. What you typed is still here; try again in a moment.';

/** The answer's data, or a Refusal; its status is 0 when there was no answer. */
export async function ask<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await request.catch((problem: unknown) => {
    throw problem instanceof Refusal ? problem : new Refusal(unreachable, 0);
  });
  if (response.ok) return data as T;
  const problem = error as { detail?: string; field?: string; theirs?: string } | undefined;
  throw new Refusal(
    problem?.detail ?? `The server answered ${response.status}. Reload the page and try again.`,
    response.status,
    problem?.field,
    problem?.theirs,
  );
}

/** Sends a file as it is, and answers with what the server makes of it; or a Refusal. */
export async function askOfFile<T>(path: string, file: File): Promise<T> {
  const request = new Request(`${path}?name=${encodeURIComponent(file.name)}`, {
    method: 'POST',
    body: file,
    headers: { 'content-type': 'application/octet-stream' },
  });
  return ask<T>(
    send(request).then(async (response) => {
      const body: unknown = await response.json().catch(() => undefined);
      return response.ok ? { data: body as T, response } : { error: body, response };
    }),
  );
}
