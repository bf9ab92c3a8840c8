import { expect, test } from '@playwright/test';
import { newStudy } from './people';
import { OwnServer } from './ownServer';

const server = new OwnServer();

test.use({ baseURL: server.base });
test.beforeAll(() => server.start());
test.afterAll(() => server.end());

test('a real workspace asks for its steward first, has no demo door, and keeps what it was given', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('You will be its steward')).toBeVisible();
  await page.getByLabel('Your name').fill('Una Kerr');
  await page.getByLabel('E-mail address').fill('una@vitrine.example');
  await page.getByLabel('Password').fill('short');
  await page.getByRole('button', { name: 'Set the workspace up' }).click();
  await expect(page.getByRole('alert')).toContainText('at least 10 characters');
  await page.getByLabel('Password').fill('a few words in a row');
  await page.getByRole('button', { name: 'Set the workspace up' }).click();
  await expect(page.getByText('Nothing is being studied yet')).toBeVisible();
  await newStudy(page, 'A real study');

  await page.getByRole('button', { name: 'Signed in as Una Kerr' }).click();
  await page.getByRole('menuitem', { name: 'Sign out', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await page.goto('/');
  await page.getByLabel('E-mail address').fill('una@vitrine.example');
  await page.getByLabel('Password').fill('not this one');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('do not belong together');
  await page.getByLabel('Password').fill('a few words in a row');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: /A real study/ })).toBeVisible();
});

test('someone invited by a link chooses a password, sees the studies of their team and no other, and can end every sign-in', async ({ page, browser }) => {
  await page.goto('/');
  await page.getByLabel('E-mail address').fill('una@vitrine.example');
  await page.getByLabel('Password').fill('a few words in a row');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: /A real study/ })).toBeVisible();
  await newStudy(page, 'Not for Pell');
  await page.getByRole('link', { name: 'People' }).click();
  await page.getByRole('button', { name: 'Invite someone' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Pell Arden');
  await page.getByLabel('E-mail address').fill('pell@vitrine.example');
  await page.getByLabel('A real study').check();
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = await page.getByLabel('Link of the invitation').inputValue();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('region', { name: 'Open invitations' })).toContainText('Pell Arden');

  const pells = await browser.newContext();
  const pell = await pells.newPage();
  await pell.goto(link);
  await expect(pell.getByText('Una Kerr invites you to work here as a researcher')).toBeVisible();
  await pell.getByLabel('Password').fill('words that Pell chose');
  await pell.keyboard.press('Enter');
  await expect(pell.getByRole('link', { name: /A real study/ })).toBeVisible();
  await expect(pell.getByRole('link', { name: /Not for Pell/ })).toHaveCount(0);
  await pell.goto('/studies/2');
  await expect(pell.getByRole('alert')).toContainText('not in its study’s team');

  // Una adds Pell to the other study as well; it appears by itself.
  await pell.goto('/');
  await page.goto('/studies/2');
  await page.getByRole('button', { name: 'Change the team' }).click();
  await page.getByLabel('Pell Arden').check();
  await expect(pell.getByRole('link', { name: /Not for Pell/ })).toBeVisible();

  await pell.getByRole('button', { name: 'Signed in as Pell Arden' }).click();
  await pell.getByRole('menuitem', { name: 'Sign out everywhere' }).click();
  await expect(pell.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await pells.close();
});
