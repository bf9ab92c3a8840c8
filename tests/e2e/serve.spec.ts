import { expect, test } from '@playwright/test';
import { newStudy } from './people';
import { servePort } from './playwright.config';

test.use({ baseURL: `http://127.0.0.1:${servePort}` });

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
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
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
