import { expect, test, type Page } from '@playwright/test';
import { OwnServer, password, person } from './ownServer';
import { cut, reading, write } from './people';

const server = new OwnServer();

test.use({ baseURL: server.base });
test.afterAll(() => server.end());

const lines = (page: Page) => page.getByRole('log', { name: 'Lines' }).getByRole('listitem');

async function note(page: Page, typed: string) {
  const field = page.getByLabel('The next line');
  await field.pressSequentially(typed);
  await field.press('Enter');
}

test('three people take notes through a cut connection and a server that is killed, and no line is missing or doubled', async ({ page, browser }) => {
  test.setTimeout(120_000);
  await server.start();
  await write(page, 'post', '/api/set-up', { name: 'Una Kerr', email: 'una@vitrine.example', password, role: 'steward' });
  await write(page, 'post', '/api/accounts', { name: 'Ida Moss', email: 'ida@vitrine.example', password, role: 'researcher' });
  await write(page, 'post', '/api/accounts', { name: 'Nell Orr', email: 'nell@vitrine.example', password, role: 'noteTaker' });
  const study = (await write(page, 'post', '/api/studies', { title: 'On the quay', purpose: '', method: '', researchQuestions: [] })).id;
  await write(page, 'put', `/api/studies/${study}/members`, { accountIds: [1, 2, 3] });
  await write(page, 'post', '/api/tags', { name: 'named ticket', parentId: null, colour: 2, definition: '', settled: true });
  const [, una] = await person(browser, server.base, 'una@vitrine.example');
  const [, ida] = await person(browser, server.base, 'ida@vitrine.example');
  const [nells, nell] = await person(browser, server.base, 'nell@vitrine.example');

  // A session is made, its notes begun, and joined by the two others.
  await una.goto(`/studies/${study}/gather/sessions`);
  await una.getByRole('button', { name: 'New session' }).click();
  await una.getByLabel('Title').fill('Morning visit');
  await una.getByRole('button', { name: 'Add the session' }).click();
  await una.getByRole('link', { name: 'Take notes on Morning visit' }).click();
  await una.getByRole('button', { name: 'Start the clock' }).click();
  await expect(una.getByLabel('The next line')).toBeFocused();
  await ida.goto(`/studies/${study}/gather/sessions`);
  await ida.getByRole('link', { name: 'Join the notes on Morning visit' }).click();
  await nell.goto(ida.url());

  // A tag is completed while typing; everyone sees each line within a second.
  await note(una, 'the lamp goes out #lam');
  await ida.getByLabel('The next line').pressSequentially('#nam');
  await expect(ida.getByRole('option', { name: 'named ticket' })).toBeVisible();
  await ida.keyboard.press('Tab');
  await note(ida, 'they ask for the name !');
  for (const one of [una, ida, nell]) {
    await expect(lines(one)).toHaveCount(2, { timeout: 2_000 });
    await expect(lines(one).filter({ hasText: 'they ask for the name' })).toContainText('named ticket');
  }

  // One loses the connection, then the server is killed while all three write.
  await nells.setOffline(true);
  await note(nell, 'written without a line to the server');
  await note(nell, 'and another');
  await server.kill();
  for (const [one, name] of [
    [una, 'una'],
    [ida, 'ida'],
    [nell, 'nell'],
  ] as const) {
    for (let i = 1; i <= 3; i++) await note(one, `${name} line ${i} #dark`);
  }
  await cut(una);
  await expect(una.getByText('3 lines kept in this browser')).toBeVisible();
  await server.start();
  for (const one of [una, ida]) await expect(lines(one)).toHaveCount(8, { timeout: 20_000 });
  await nells.setOffline(false);
  for (const one of [una, ida, nell]) await expect(lines(one)).toHaveCount(13, { timeout: 20_000 });

  // The end makes a source; a line that comes afterwards goes into it.
  await ida.getByRole('button', { name: 'End the notes' }).click();
  await expect(reading(ida)).toContainText('they ask for the name');
  await expect(nell.getByText('These notes have ended.')).toBeVisible();
  await note(nell, 'a last one');
  await expect(reading(ida)).toContainText('a last one');

  const source = Number(new URL(ida.url()).searchParams.get('source'));
  const made: { text: string; turns: { beginMs: number }[] } = await (await una.request.get(`/api/sources/${source}`)).json();
  const written = ['the lamp goes out', 'they ask for the name', 'written without a line to the server', 'and another', 'a last one'];
  for (const name of ['una', 'ida', 'nell']) for (let i = 1; i <= 3; i++) written.push(`${name} line ${i}`);
  expect(made.text.split('\n\n').sort()).toEqual(written.sort());
  const times = made.turns.map((t) => t.beginMs);
  expect(times).toEqual([...times].sort((a, b) => a - b));
  for (const name of ['una', 'ida', 'nell']) expect(made.text).toMatch(new RegExp(`${name} line 1[^]*${name} line 2[^]*${name} line 3`));
  const marks: { createdBy: string }[] = await (await una.request.get(`/api/sources/${source}/observations`)).json();
  expect(marks.map((m) => m.createdBy).sort()).toEqual([
    ...Array<string>(4).fill('Ida Moss'),
    ...Array<string>(3).fill('Nell Orr'),
    ...Array<string>(4).fill('Una Kerr'),
  ]);
});
