import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Step = Schemas['Step'];

const tokenHeader = 'X-Vitrine-Token';
let pageToken: Promise<string> | null = null;

/** Requests after which someone else is signed in, or nobody. */
const anotherPerson = /\/api\/(set-up|sign-in|sign-out|demo\/sign-in|join\/|me\/)/;

const freshToken = () =>
  (pageToken = fetch('/api/me')
    .then((answer) => answer.json() as Promise<{ pageToken: string }>)
    .then((me) => me.pageToken)
    .catch((problem: unknown) => {
      pageToken = null;
      throw problem;
    }));

/** Sends a request; a write carries the page's token, fetched anew when it was for another sign-in. */
export async function send(request: Request): Promise<Response> {
  if (request.method === 'GET') return fetch(request);
  const again = request.clone();
  request.headers.set(tokenHeader, await (pageToken ?? freshToken()));
  const answer = await fetch(request);
  if (answer.ok && anotherPerson.test(request.url)) pageToken = null;
  if (answer.status !== 400 || !answer.headers.get('content-type')?.includes('problem')) return answer;
  const problem = (await answer.clone().json()) as { type?: string };
  if (problem.type !== '/problems/page-too-old') return answer;
  again.headers.set(tokenHeader, await freshToken());
  return fetch(again);
}

/** The API, typed by the server's OpenAPI document. */
export const api = createClient<paths>({ baseUrl: '', fetch: send });

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
  const { data, error, response } = await request.catch(() => {
    throw new Refusal(unreachable, 0);
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
