import { expect, test } from './demo';
import { comeIn, goTo, newStudy, reading } from './people';

const talk = (name: string) => `Tom: How did you hear?\n\n${name}: I heard it on the quay at noon.\n\nLark: So did I, from ${name}.`;
const files = ['Wren', 'Sorrel', 'Heron'].map((name) => ({ name: `${name}.txt`, mimeType: 'text/plain', buffer: Buffer.from(talk(name)) }));

test('a group discussion is held together, read side by side, and put in order by keys', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Held together');
  const study = new URL(page.url()).pathname;
  await goTo(page, 'Gather');
  await page.getByLabel('Files to add').setInputFiles(files);
  for (const { name } of files) await expect(page.getByRole('checkbox', { name: `Choose ${name.replace('.txt', '')}` })).toBeVisible();

  await page.getByRole('checkbox', { name: 'Choose Wren' }).check();
  await page.getByRole('checkbox', { name: 'Choose Heron' }).check();
  await page.getByLabel('Choose its session').selectOption('new');
  await page.getByLabel('Title').fill('Evening in the hall');
  await page.getByLabel('Kind').selectOption('groupDiscussion');
  await page.getByLabel('Length in minutes').fill('62');
  await page.getByRole('button', { name: 'Add the session' }).click();
  await expect(page.getByText('of “Evening in the hall”')).toHaveCount(2);

  await page.getByRole('checkbox', { name: 'Choose Heron' }).focus();
  await page.keyboard.press('Alt+ArrowUp');
  const titles = page.getByRole('row').getByRole('link');
  await expect(titles).toHaveText(['Wren', 'Heron', 'Sorrel']);
  await expect(page.getByRole('checkbox', { name: 'Choose Heron' })).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect(titles).toHaveText(['Wren', 'Sorrel', 'Heron']);

  await page.getByLabel('Find in the sources').fill('heard noon');
  const inside = page
    .getByRole('row')
    .filter({ hasText: 'Sorrel' })
    .getByRole('link', { name: /on the quay at noon/ });
  await expect(inside).toBeVisible();
  await inside.click();
  await expect(reading(page)).toContainText('Sorrel');
  await page.keyboard.press('Shift+}');
  await expect(page.getByRole('region', { name: 'Text of Heron' })).toBeFocused();
  await page.keyboard.press('b');
  await expect(page.getByRole('group', { name: 'Left source' })).toBeVisible();
  await expect(page.getByRole('region', { name: /^Text of/ })).toHaveCount(2);
  await page.keyboard.press('b');
  await expect(page.getByRole('region', { name: /^Text of/ })).toHaveCount(1);

  await page.goto(`${study}/gather/sessions`);
  await expect(page.getByRole('row').filter({ hasText: 'Evening in the hall' })).toContainText('62 min');
  await page.getByRole('button', { name: 'Make a session of the source without one' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'interview' })).toContainText('Sorrel');
});

test('a file of any type is attached, tagged, and stands with an insight', async ({ page }) => {
  await comeIn(page);
  await page.goto('/studies/1/gather/attachments');
  await page.getByLabel('Files to attach').setInputFiles({ name: 'floor plan.dwg', mimeType: '', buffer: Buffer.from('lines') });
  await page.getByRole('button', { name: 'Change floor plan' }).click();
  await page.getByLabel('Tags', { exact: true }).fill('queue, floor');
  await expect(page.getByText('1 tag of the study; a new draft tag: floor')).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'floor plan' })).toContainText('floor');
  await page.goto('/studies/1/show/4');
  await page.getByLabel('Add an attachment as context').selectOption('floor plan');
  const here = page.getByRole('region', { name: 'Attachments' });
  await expect(here.getByRole('link', { name: 'floor plan' })).toBeVisible();
  const [download] = await Promise.all([page.waitForEvent('download'), here.getByRole('link', { name: 'floor plan' }).click()]);
  expect(download.suggestedFilename()).toBe('floor plan.dwg');
  await here.getByRole('button', { name: 'Remove floor plan' }).click();
  await expect(here.getByRole('link', { name: 'floor plan' })).toHaveCount(0);
});

test('a tag with a scale asks its value, by keys', async ({ page }) => {
  await comeIn(page);
  await page.goto('/studies/1/mark?source=3');
  await reading(page).focus();
  await page.keyboard.press('PageDown');
  await page.keyboard.press('PageDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Enter');
  await page.keyboard.type('effort');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'Value of effort' })).toBeFocused();
  await page.keyboard.type('7');
  await expect(page.getByText('From 1 to 5 in steps of 1.')).toBeVisible();
  await page.keyboard.press('Backspace');
  await page.keyboard.type('4');
  const saved = page.waitForResponse((r) => r.url().endsWith('/value'));
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'effort 4' })).toBeVisible();
  await saved;
  await page.reload();
  await expect(reading(page).getByRole('button', { name: 'effort 4' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(reading(page).getByRole('button', { name: 'effort 4' })).toHaveCount(0);
});
