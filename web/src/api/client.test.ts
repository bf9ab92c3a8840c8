import { describe, expect, it } from 'vitest';
import { ask, Refusal } from './client';

const answer = (status: number, data?: unknown, error?: unknown) => Promise.resolve({ data, error, response: new Response(null, { status }) });

describe('asking the server', () => {
  it('gives the data', async () => expect(await ask(answer(200, { id: 1 }))).toEqual({ id: 1 }));

  it('turns Problem Details into a refusal with its sentence and field', async () => {
    const refusal = await ask(answer(400, undefined, { detail: 'A tag needs a name.', field: 'name' })).catch((e: unknown) => e);
    expect(refusal).toBeInstanceOf(Refusal);
    expect(refusal).toMatchObject({ message: 'A tag needs a name.', status: 400, field: 'name' });
  });

  it('says something helpful when there is no sentence', async () => {
    await expect(ask(answer(502))).rejects.toThrow('The server answered 502. Reload the page and try again.');
  });

  it('says that nothing is lost when the server cannot be reached', async () => {
    await expect(ask(Promise.reject(new TypeError('Failed to fetch')))).rejects.toThrow('What you typed is still here');
  });
});
