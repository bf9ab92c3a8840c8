import { expect, test } from './demo';
import { comeIn, goTo, newStudy } from './people';

const rows = Array.from({ length: 400 }, (_, i) => `S${i + 1};${['Tarra', 'Skelda'][i % 2]};${1 + (i % 5)};Tell us earlier than number ${i} was told.`);
const survey = (n: number) => ({
  name: 'quay survey.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(['Respondent;Home;How easy was it?;What would you change?', ...rows.slice(0, n)].join('\n')),
});

test('a survey of 400 rows comes in by one drop, grows, and its people are edited like a spreadsheet', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Winter quay');
  await goTo(page, 'Gather');
  const bring = async (n: number) => {
    await page.getByLabel('Files to add').setInputFiles(survey(n));
    await page.getByRole('button', { name: 'Say what its columns are' }).click();
  };
  await bring(390);
  await expect(page.getByLabel('What Home is')).toHaveValue('attribute');
  await expect(page.getByLabel('What What would you change? is')).toHaveValue('openAnswer');
  await page.getByLabel('What the values of Home are').selectOption('text');
  await expect(page.getByRole('complementary', { name: 'What will be imported' })).toContainText('390 new participants');
  await page.getByRole('button', { name: 'Import it' }).click();
  await expect(page.getByRole('region', { name: 'Files' })).toContainText('390 new participants; 390 sources with open answers.');
  await bring(400);
  await expect(page.getByRole('complementary', { name: 'What will be imported' })).toContainText('390 rows came in before');
  await page.getByRole('button', { name: 'Import it' }).click();
  await expect(page.getByRole('region', { name: 'Files' })).toContainText('10 new participants; 10 sources with open answers; 390 rows here already.');
  await expect(page.getByRole('button', { name: 'quay survey', exact: true })).toHaveAttribute('aria-expanded', 'false');

  // Again in autumn: other columns in another order, and one person thinks otherwise by now.
  await page.getByLabel('Files to add').setInputFiles({
    name: 'autumn.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('What would you change;1. How easy was it?;Respondent;Age\nNothing by now.;5;S1;41\nTell us earlier than number 1 was told.;2;S2;\n'),
  });
  await page.getByRole('button', { name: 'Say what its columns are' }).click();
  const before = page.getByRole('region', { name: 'It came in before' });
  await expect(before).toContainText('As “quay survey”');
  await expect(before).toContainText('New questions: “Age”');
  await expect(before.getByRole('list', { name: 'What differs' }).getByRole('listitem')).toHaveText([
    'S1, 1. How easy was it?: 1 5',
    'S1, What would you change: Tell us earlier than number 0 was told. Nothing by now.',
  ]);
  await before.getByLabel('Import them as new answers').check();
  await before.getByLabel('Answered on').fill('2026-10-01');
  await page.getByRole('button', { name: 'Import it' }).click();
  await expect(page.getByRole('region', { name: 'Files' })).toContainText('1 differ now and were taken as new answers');

  await page.getByRole('link', { name: /^Participants 400/ }).click();
  const grid = page.getByRole('grid', { name: 'Participants' });
  await grid.focus();
  for (const key of ['ArrowRight', 'ArrowRight', 'Shift+ArrowDown', 'Shift+ArrowDown']) await page.keyboard.press(key);
  await page.keyboard.type('Inner Holm');
  await page.keyboard.press('Control+Enter');
  await expect(grid.getByRole('gridcell', { name: 'Home of Respondent S3: Inner Holm' })).toBeVisible();
  // A number that is none stays in its cell and says so; then it is mended.
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('often');
  await page.keyboard.press('Enter');
  const refused = grid.getByRole('gridcell', { name: /How easy was it\? of Respondent S3: often. Not saved/ });
  await expect(refused).toBeVisible();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.type('4');
  await page.keyboard.press('Enter');
  await expect(refused).toHaveCount(0);
  await page.keyboard.press('Control+End');
  await expect(grid.getByRole('gridcell', { name: 'Real name of Respondent S400: empty' })).toBeVisible();
  await page.reload();
  // The page may be where it was scrolled to, once it has all its rows.
  await expect(async () => {
    await grid.focus();
    await page.keyboard.press('Control+Home');
    await expect(grid.getByRole('gridcell', { name: 'Home of Respondent S1: Inner Holm' })).toBeVisible({ timeout: 2000 });
  }).toPass();
  await expect(grid.getByRole('gridcell', { name: 'How easy was it? of Respondent S3: 4' })).toBeVisible();
});

test('blocks are pasted and filled down, and an attribute is given another type', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await comeIn(page);
  await newStudy(page, 'Small grid');
  await goTo(page, 'Gather');
  await page.getByRole('link', { name: /^Participants/ }).click();
  for (const name of ['Alder', 'Wren', 'Sorrel']) {
    await page.getByRole('button', { name: 'Add a participant' }).click();
    await page.getByLabel('Pseudonym', { exact: true }).fill(name);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('gridcell', { name: new RegExp(`^Pseudonym of ${name}`) })).toBeVisible();
  }
  for (const name of ['home', 'age']) {
    await page.getByRole('button', { name: 'Add an attribute' }).click();
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.getByLabel('It is').selectOption('text');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: `Change the attribute ${name}` })).toBeVisible();
  }
  const grid = page.getByRole('grid', { name: 'Participants' });
  await page.evaluate(() => navigator.clipboard.writeText('Tarra\t41\nSkelda\tabout 50\n'));
  await grid.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Control+v');
  await expect(grid.getByRole('gridcell', { name: 'age of Wren: about 50' })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  await expect(grid.getByRole('gridcell', { name: 'home of Sorrel: Skelda' })).toBeVisible();

  await page.getByRole('button', { name: 'Change the attribute age' }).click();
  await page.getByLabel('It is').selectOption('number');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('alert')).toContainText('One value is not a number');
  await page.getByRole('button', { name: 'Leave them out' }).click();
  await expect(grid.getByRole('gridcell', { name: 'age of Wren: empty' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(grid.getByRole('gridcell', { name: 'age of Wren: about 50' })).toBeVisible();

  await page.getByRole('link', { name: 'Open Wren' }).click();
  await expect(page.getByRole('heading', { name: 'Wren' })).toBeVisible();
  await expect(page.getByText('Skelda')).toBeVisible();
});

test('sources go into a folder and out of it again', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Folders');
  await goTo(page, 'Gather');
  await page
    .getByLabel('Files to add')
    .setInputFiles(['one', 'two', 'three'].map((name) => ({ name: `${name}.txt`, mimeType: 'text/plain', buffer: Buffer.from(`Words of ${name}.`) })));
  await expect(page.getByRole('checkbox', { name: 'Choose three' })).toBeVisible();
  await page.getByRole('button', { name: 'New folder' }).click();
  await page.getByLabel('Name').fill('Islanders');
  await page.keyboard.press('Enter');
  const folder = page.getByRole('rowgroup').filter({ has: page.getByRole('button', { name: 'Islanders', exact: true }) });
  await page.getByRole('checkbox', { name: 'Choose one' }).check();
  await page.getByRole('checkbox', { name: 'Choose two' }).check();
  await page.getByLabel('Move what is chosen to').selectOption('Islanders');
  await expect(folder.getByRole('row')).toHaveCount(3);
  await page.getByRole('row', { name: /three/ }).dragTo(folder.getByRole('button', { name: 'Islanders', exact: true }));
  await expect(folder.getByRole('row')).toHaveCount(4);
  await page.getByRole('button', { name: 'Change the folder Islanders' }).click();
  await page.getByRole('button', { name: 'Remove; its 3 sources stay' }).click();
  await page.keyboard.press('Control+z'); // at once: it waits for the removal, and takes that back
  await expect(page.getByText('Undid: Removed the folder “Islanders”')).toBeVisible();
  await expect(folder.getByRole('row')).toHaveCount(4);
  await page.getByLabel('Find in the sources').fill('two');
  await expect(folder.getByRole('row')).toHaveCount(2);
});
