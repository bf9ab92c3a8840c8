import { expect, test, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { reading, select, write } from './people';

const port = 5192;
const base = `http://127.0.0.1:${port}`;
const data = mkdtempSync(join(tmpdir(), 'vitrine-e2e-cut-'));
const password = 'ten letters and more';
let server: ChildProcess | undefined;

async function start(page: Page) {
  const dll = '../../src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll';
  server = spawn('dotnet', [dll, 'serve', '--data', data, '--port', String(port), '--web', '../../web/dist'], { stdio: 'ignore' });
  await expect
    .poll(
      () =>
        page.request.get(`${base}/healthz`).then(
          (a) => a.ok(),
          () => false,
        ),
      { timeout: 30_000 },
    )
    .toBe(true);
}

/** Without a warning, as a power cut would. */
const kill = () =>
  new Promise((gone) => {
    server!.once('exit', gone);
    server!.kill('SIGKILL');
  });

test.use({ baseURL: base });
test.afterAll(() => {
  server?.kill('SIGKILL');
  rmSync(data, { recursive: true, force: true });
});

async function person(browser: Browser, email: string): Promise<[BrowserContext, Page]> {
  const context = await browser.newContext({ baseURL: base });
  const page = await context.newPage();
  await write(page, 'post', '/api/sign-in', { email, password });
  return [context, page];
}

async function mark(page: Page, words: string, tag: string) {
  await select(page, words);
  await page.keyboard.type(tag);
  await page.keyboard.press('Shift+Enter');
  await expect(reading(page).getByRole('button', { name: tag })).toBeVisible();
}

const cut = (page: Page) => expect(page.getByText('The server cannot be reached')).toBeVisible({ timeout: 15_000 });
const open = (page: Page) => expect(page.getByText('The server cannot be reached')).toHaveCount(0, { timeout: 15_000 });

test('two people work while the server is killed and started again twice, and lose nothing', async ({ page, browser }) => {
  test.setTimeout(120_000);
  await start(page);
  await write(page, 'post', '/api/set-up', { name: 'Una Kerr', email: 'una@vitrine.example', password, role: 'steward' });
  await write(page, 'post', '/api/accounts', { name: 'Tom Varley', email: 'tom@vitrine.example', password, role: 'researcher' });
  const study = (await write(page, 'post', '/api/studies', { title: 'Cut off', purpose: '', method: '', researchQuestions: [] })).id;
  await write(page, 'put', `/api/studies/${study}/members`, { accountIds: [1, 2] });
  const text = 'The first boat was late. Nobody told us anything. We waited in the rain.\n\nThe second boat was full. They sent us home again.';
  const source = (
    await write(page, 'post', `/api/studies/${study}/sources/paste`, { title: 'Talk', kind: 'interview', heldOn: null, text, participantIds: [] })
  ).step.id;
  const insight = (await write(page, 'post', `/api/studies/${study}/insights`, { headline: 'They wait', story: '', observationIds: [] })).id;
  const address = `/studies/${study}/mark?source=${source}`;
  const [, una] = await person(browser, 'una@vitrine.example');
  const [toms, tomAtFirst] = await person(browser, 'tom@vitrine.example');
  let tom = tomAtFirst;
  for (const one of [una, tom]) {
    await one.goto(address);
    await expect(reading(one)).toBeVisible();
  }
  await mark(una, 'first boat', 'late');
  await expect(reading(tom).getByRole('button', { name: 'late' })).toBeVisible();

  // Cut off for the first time: both go on, one takes a mark back and closes the window.
  await kill();
  await cut(una);
  await mark(una, 'Nobody told us', 'no word');
  await mark(una, 'in the rain', 'a slip');
  await una.keyboard.press('Control+z');
  await expect(reading(una).getByRole('button', { name: 'a slip' })).toHaveCount(0);
  await una.keyboard.press('s');
  await mark(tom, 'second boat', 'full');
  await cut(tom);
  await tom.close();

  await start(page);
  tom = await toms.newPage();
  await tom.goto(address);
  for (const one of [una, tom]) {
    for (const tag of ['late', 'no word', 'full']) await expect(reading(one).getByRole('button', { name: tag })).toBeVisible({ timeout: 20_000 });
    await open(one);
  }

  // And again, while one marks and the other writes.
  await tom.goto(`/studies/${study}/show/${insight}`);
  await tom.getByLabel('Story').pressSequentially('They wait on the quay ');
  await kill();
  await tom.getByLabel('Story').pressSequentially('and nobody says why.');
  await expect(tom.getByText('kept in this browser, not sent yet')).toBeVisible({ timeout: 15_000 });
  await mark(una, 'sent us home', 'turned away');
  await una.keyboard.press(']');
  await start(page);
  await expect(tom.getByText('saved', { exact: true })).toBeVisible({ timeout: 20_000 });
  await open(una);

  // What the server holds is what they did: each mark once, every word.
  const kept: { start: number; end: number; tagIds: number[] }[] = await (await una.request.get(`/api/sources/${source}/observations`)).json();
  expect(kept.map((o) => text.slice(o.start, o.end))).toEqual(['first boat', 'Nobody told us', 'second boat', 'sent us home']);
  expect(kept.every((o) => o.tagIds.length === 1)).toBe(true);
  expect((await (await una.request.get(`/api/insights/${insight}`)).json()).insight.story).toBe('They wait on the quay and nobody says why.');
});
