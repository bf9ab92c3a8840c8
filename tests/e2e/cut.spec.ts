import { expect, test, type Page } from '@playwright/test';
import { OwnServer, password, person } from './ownServer';
import { cut, open, reading, rich, select, write } from './people';

const server = new OwnServer();

test.use({ baseURL: server.base });
test.afterAll(() => server.end());

async function mark(page: Page, words: string, tag: string) {
  await select(page, words);
  await page.keyboard.type(tag);
  await page.keyboard.press('Shift+Enter');
  await expect(reading(page).getByRole('button', { name: tag })).toBeVisible();
}

test('two people work while the server is killed and started again twice, and lose nothing', async ({ page, browser }) => {
  test.setTimeout(120_000);
  await server.start();
  await write(page, 'post', '/api/set-up', { name: 'Una Kerr', email: 'una@vitrine.example', password, role: 'steward' });
  await write(page, 'post', '/api/accounts', { name: 'Tom Varley', email: 'tom@vitrine.example', password, role: 'researcher' });
  const study = (await write(page, 'post', '/api/studies', { title: 'Cut off', purpose: '', method: '', researchQuestions: [] })).id;
  await write(page, 'put', `/api/studies/${study}/members`, { accountIds: [1, 2] });
  const text = 'The first boat was late. Nobody told us anything. We waited in the rain.\n\nThe second boat was full. They sent us home again.';
  const source = (
    await write(page, 'post', `/api/studies/${study}/sources/paste`, { title: 'Talk', kind: 'interview', heldOn: null, text, participantIds: [] })
  ).step.id;
  const insight = (await write(page, 'post', `/api/studies/${study}/insights`, { headline: 'They wait', story: rich(), observationIds: [] })).id;
  const address = `/studies/${study}/mark?source=${source}`;
  const [, una] = await person(browser, server.base, 'una@vitrine.example');
  const [toms, tomAtFirst] = await person(browser, server.base, 'tom@vitrine.example');
  let tom = tomAtFirst;
  for (const one of [una, tom]) {
    await one.goto(address);
    await expect(reading(one)).toBeVisible();
  }
  await mark(una, 'first boat', 'late');
  await expect(reading(tom).getByRole('button', { name: 'late' })).toBeVisible();

  // Cut off for the first time: both go on, one takes a mark back and closes the window.
  await server.kill();
  await cut(una);
  await mark(una, 'Nobody told us', 'no word');
  await mark(una, 'in the rain', 'a slip');
  await una.keyboard.press('Control+z');
  await expect(reading(una).getByRole('button', { name: 'a slip' })).toHaveCount(0);
  await una.keyboard.press('s');
  await mark(tom, 'second boat', 'full');
  await cut(tom);
  await expect(tom.getByText('1 step kept in this browser')).toBeVisible();
  await tom.close();

  await server.start();
  tom = await toms.newPage();
  await tom.goto(address);
  for (const one of [una, tom]) {
    for (const tag of ['late', 'no word', 'full']) await expect(reading(one).getByRole('button', { name: tag })).toBeVisible({ timeout: 20_000 });
    await open(one);
  }

  // And again, while one marks and the other writes.
  await tom.goto(`/studies/${study}/show/${insight}`);
  await tom.getByRole('textbox', { name: 'Story' }).pressSequentially('They wait on the quay ');
  await server.kill();
  await tom.getByRole('textbox', { name: 'Story' }).pressSequentially('and nobody says why.');
  await expect(tom.getByText('kept in this browser, not sent yet')).toBeVisible({ timeout: 15_000 });
  await mark(una, 'sent us home', 'turned away');
  await una.keyboard.press(']');
  await server.start();
  await expect(tom.getByText('saved', { exact: true })).toBeVisible({ timeout: 20_000 });
  await open(una);

  // What the server holds is what they did: each mark once, every word.
  type Kept = { anchor: { start: number; end: number }; tagIds: number[] }[];
  const marks = async (): Promise<Kept> => (await una.request.get(`/api/sources/${source}/observations`)).json();
  const wordsOf = (kept: Kept) => kept.map((o) => text.slice(o.anchor.start, o.anchor.end));
  // Her last mark may have been on its way when the server came back, before her page knew that it had gone.
  await expect.poll(async () => (await marks()).length, { timeout: 20_000 }).toBe(4);
  const kept = await marks();
  expect(wordsOf(kept)).toEqual(['first boat', 'Nobody told us', 'second boat', 'sent us home']);
  expect(kept.every((o) => o.tagIds.length === 1)).toBe(true);
  expect((await (await una.request.get(`/api/insights/${insight}`)).json()).insight.story).toEqual(rich('They wait on the quay and nobody says why.'));
});
