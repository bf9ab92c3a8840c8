import { expect, test as base } from '@playwright/test';
import { rmSync } from 'node:fs';
import { OwnServer } from './ownServer';

export { expect };

/** Where the demo stands, loaded once; each worker works on a copy of it. */
export const loadedDemo = () => process.env['VITRINE_LOADED_DEMO']!;

/** Loads the demo once for all files. */
export default async function loadDemo() {
  const server = new OwnServer('demo');
  await server.start();
  await server.stop('SIGTERM');
  process.env['VITRINE_LOADED_DEMO'] = server.data;
  return () => rmSync(server.data, { recursive: true, force: true });
}

/** A test in the demo workspace. Each of the workers has a server and data of its own. */
export const test = base.extend<object, { demo: OwnServer }>({
  demo: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads from the pattern what a fixture rests on.
    async ({}, use) => {
      const server = new OwnServer('demo');
      server.copyFrom(loadedDemo());
      await server.start();
      await use(server);
      server.end();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ demo }, use) => use(demo.base),
});
