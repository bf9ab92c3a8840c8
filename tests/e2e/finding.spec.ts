import { expect, test } from './demo';
import { comeIn, demoStudy, newText, reading, rich, select, write } from './people';

test('from the palette one goes anywhere and does anything, by keys alone', async ({ page }) => {
  await comeIn(page);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Studies' })).toBeVisible();
  const palette = page.getByRole('dialog', { name: 'Find or do' });
  await page.keyboard.press('Control+k');
  await page.keyboard.type('named tick');
  await expect(palette.getByRole('option', { name: /turns sharing into an offence/ })).toBeVisible();
  await expect(palette.getByRole('option').first()).toHaveAttribute('aria-selected', 'true');
  await expect(palette.getByText('Words in sources')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(palette).toHaveCount(0);

  await page.keyboard.press('Control+k');
  await page.keyboard.type('tag set');
  await expect(palette.getByRole('option', { name: 'Tag set' })).toBeVisible();
  // What was found for the words typed so far may still go away under the arrow.
  await expect(async () => {
    await page.keyboard.press('ArrowUp');
    await expect(palette.getByRole('option', { name: 'Tag set' })).toHaveAttribute('aria-selected', 'true', { timeout: 300 });
  }).toPass();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Tag set' })).toBeVisible();

  // Words lead to the place where they stand.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('kettle');
  await palette
    .getByRole('group', { name: 'Words in sources' })
    .getByRole('option', { name: /kettle/ })
    .click();
  await expect(reading(page)).toContainText('kettle');
});

test('search finds any form of a word in everything, and shows it in context', async ({ page }) => {
  await comeIn(page, 'Nell Harrow');
  await page.goto('/search');
  await page.getByLabel('Search everything').fill('cancelling');
  for (const kind of ['Themes', 'Insights', 'Exhibits', 'Observations', 'Words in sources'])
    await expect(page.getByRole('region', { name: kind })).toBeVisible();
  await expect(page.locator('mark', { hasText: 'cancelled' }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Words in sources' }).click();
  await expect(page).toHaveURL(/kind=text/);
  await page.getByRole('region', { name: 'Words in sources' }).getByRole('link').first().click();
  await expect(reading(page)).toBeVisible();
  await page.goBack();
  await page.getByLabel('Search everything').fill('nothinghasthisword');
  await expect(page.getByText('Nothing has these words')).toBeVisible();
});

test('one’s steps are listed and taken back one by one; things tell their trail', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Steps', 'P01', 'First words here.\n\nSecond words there.');
  await select(page, 'First words');
  await page.keyboard.type('one');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'one' })).toBeVisible();
  await select(page, 'Second words');
  await page.keyboard.type('two');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'two' })).toBeVisible();
  await page.keyboard.press('u');
  const steps = page.getByRole('dialog', { name: 'Your steps' });
  await steps.getByRole('button', { name: 'Undo: Marked “First words”' }).click();
  await expect(steps.getByText(/undone/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(reading(page).getByRole('button', { name: 'two' })).toBeVisible();
  await expect(reading(page).getByRole('button', { name: 'one' })).toHaveCount(0);

  await page.goto(`${await demoStudy(page)}/show/4`);
  await page.getByRole('button', { name: /^Trail of/ }).click();
  await expect(page.getByRole('list', { name: 'Trail' })).toContainText('Ida Moss made the insight');
});

test('two people writing one text get both versions and choose', async ({ page, browser }) => {
  await comeIn(page, 'Ida Moss');
  const study = (await demoStudy(page)).split('/').at(-1);
  const { id } = await write(page, 'post', `/api/studies/${study}/insights`, { headline: 'Two hands', story: rich('Once'), observationIds: [] });
  await page.goto(`/studies/${study}/show/${id}`);
  await expect(page.getByRole('textbox', { name: 'Story' })).toHaveText('Once');
  const toms = await browser.newContext();
  const tom = await toms.newPage();
  await comeIn(tom, 'Tom Varley');
  await page.getByRole('textbox', { name: 'Story' }).fill('What Ida wrote');
  await write(tom, 'put', `/api/insights/${id}/story`, { text: rich('What Tom wrote'), was: rich('Once') });
  const both = page.getByRole('region', { name: 'Two versions' });
  await expect(both).toContainText('Tom Varley changed it');
  await expect(both).toContainText('What Tom wrote');
  await expect(both).toContainText('What Ida wrote');
  await both.getByRole('button', { name: 'Keep both' }).click();
  await expect(both).toHaveCount(0);
  await expect.poll(async () => (await (await page.request.get(`/api/insights/${id}`)).json()).insight.story).toEqual(rich('What Tom wrote', 'What Ida wrote'));
  await write(page, 'post', '/api/undo', { studyId: Number(study), actionId: null });
  await toms.close();
});
