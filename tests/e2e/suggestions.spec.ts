import { type Page } from '@playwright/test';
import { expect, test } from './demo';
import { comeIn, demoStudy } from './people';

const here = (page: Page) => page.locator('ul[aria-label="Suggested"] > li[aria-current="true"]');
const shelf = (page: Page) => page.getByRole('list', { name: 'Groups' }).getByRole('button');
const claims = async (page: Page, study: string): Promise<string[]> =>
  (await (await page.request.get(`/api${study}/sorting`)).json()).themes.map((t: { theme: { title: string } }) => t.theme.title);

test('themes are suggested from tags and gone through by keys, left, come back to, and taken back', async ({ page }) => {
  await comeIn(page);
  const study = await demoStudy(page);
  const before = await claims(page, study);
  await page.goto(`${study}/sort`);
  await expect(page.getByRole('region', { name: /^A ticket with a name/ })).toBeVisible();
  await page.keyboard.press('s');
  await expect(page.getByRole('dialog').getByLabel('Of what')).toContainText('tags in no theme');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^Themes from \d+ tags/ })).toBeVisible();
  await expect(here(page)).toContainText('touch');
  const first = (await shelf(page).count()) - 1;
  expect(first).toBeGreaterThan(3);

  // The claim, a yes, a no, later, another group by its number, a group of its own by its name.
  await page.keyboard.press('c');
  await page.keyboard.type('The box travels by favour');
  await page.keyboard.press('Enter');
  await expect(shelf(page).first()).toContainText('The box travels by favour');
  const lines = page.locator('ul[aria-label="Suggested"] > li');
  await page.keyboard.press('y');
  await expect(page.getByText('A theme', { exact: true })).toBeVisible();
  await expect(lines.last()).toContainText('in the theme');
  await page.keyboard.press('n');
  await expect(lines.last()).toContainText('said no');
  const later = await here(page).locator('.font-medium').first().textContent();
  await page.keyboard.press('l');
  await expect(here(page)).not.toContainText(later!);
  await shelf(page).first().click();
  await expect(lines.filter({ hasText: later! })).toContainText(/put off|Put off/);
  await page.keyboard.press('ArrowRight');
  const moved = await here(page).locator('.font-medium').first().textContent();
  await page.keyboard.press('3');
  await expect(here(page)).not.toContainText(moved!);
  const named = await here(page).locator('.font-medium').first().textContent();
  await page.keyboard.press('e');
  await page.keyboard.type('One lift, one man');
  await page.keyboard.press('Enter');
  await expect(shelf(page).filter({ hasText: 'One lift, one man' })).toContainText('1 to go');

  // Left and come back to.
  await page.reload();
  await shelf(page).nth(2).click();
  await expect(lines.filter({ hasText: moved! })).toBeVisible();
  await shelf(page).filter({ hasText: 'One lift, one man' }).click();
  await expect(here(page)).toContainText(named!);
  await page.keyboard.press('Y');
  await expect.poll(async () => await claims(page, study)).toEqual([...before, 'The box travels by favour', 'One lift, one man']);
  for (let i = 0; i < 8 && (await claims(page, study)).length > before.length; i++) {
    await page.keyboard.press('Control+z');
    await page.waitForTimeout(400);
  }
  expect(await claims(page, study)).toEqual(before);
});

test('a theme is split as is suggested, by the mouse, and by hand, by keys', async ({ page }) => {
  await comeIn(page);
  const study = await demoStudy(page);
  const before = await claims(page, study);
  await page.goto(`${study}/sort/themes/1`);
  await page.getByRole('button', { name: 'Split…' }).click();
  await page.getByLabel('How many groups').selectOption('3');
  await page.getByRole('dialog').getByRole('button', { name: 'Suggest' }).click();
  await expect(page.getByRole('heading', { name: /^Parts of “People learn/ })).toBeVisible();
  await expect(shelf(page).nth(2)).toContainText('3');
  await here(page).getByRole('button', { name: /^Yes/ }).click();
  await expect.poll(async () => (await claims(page, study)).length).toBe(before.length + 1);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => await claims(page, study)).toEqual(before);
  await page.goto(`${study}/sort/themes/2`);
  await page.getByRole('button', { name: 'Split…' }).click();
  // By hand: each goes to a part by its number, the first to one that is made by its name.
  await page.getByLabel('How many groups').selectOption('0');
  await page.getByRole('dialog').getByRole('button', { name: 'Suggest' }).click();
  await expect(page.getByRole('heading', { name: 'Not placed yet' })).toBeVisible();
  await page.keyboard.press('e');
  await page.keyboard.type('By telephone');
  await page.keyboard.press('Enter');
  const part = shelf(page).filter({ hasText: 'By telephone' });
  await expect(part).toContainText('1 to go');
  await page.keyboard.press('1');
  await expect(part).toContainText('2 to go');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Y');
  await expect.poll(async () => await claims(page, study)).toContain('By telephone');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => await claims(page, study)).toEqual(before);
});
