import { expect, it } from 'vitest';
import { inTurn } from './inTurn';

it('does one thing after the other, also after one that failed', async () => {
  const done: string[] = [];
  let finish = () => {};
  const first = inTurn(() => new Promise<void>((_, failed) => (finish = () => failed(new Error('no')))));
  const second = inTurn(async () => void done.push('second'));
  await Promise.resolve();
  expect(done).toEqual([]);
  finish();
  await expect(first).rejects.toThrow('no');
  await second;
  expect(done).toEqual(['second']);
});
