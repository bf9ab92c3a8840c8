import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Step = Schemas['Step'];

/** The API, typed by the server's OpenAPI document. */
export const api = createClient<paths>({ baseUrl: '' });

/** What the server refused, in a sentence for the person. */
export class Refusal extends Error {
  constructor(
    sentence: string,
    readonly status: number,
    readonly field?: string,
  ) {
    super(sentence);
  }
}

const unreachable = 'The server cannot be reached. What you typed is still here; try again in a moment.';

/** The answer's data, or a Refusal. */
export async function ask<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await request.catch(() => {
    throw new Refusal(unreachable, 0);
  });
  if (response.ok) return data as T;
  const problem = error as { detail?: string; field?: string } | undefined;
  throw new Refusal(problem?.detail ?? `The server answered ${response.status}. Reload the page and try again.`, response.status, problem?.field);
}
