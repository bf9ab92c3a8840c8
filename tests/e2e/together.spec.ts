import { expect, test } from './demo';
import { comeIn, demoStudy, reading, select, write } from './people';

test('two people in one source see each other, and each other’s marks as they are made', async ({ page, browser }) => {
  await comeIn(page, 'Ida Moss');
  const address = `${await demoStudy(page)}/mark?source=4`;
  await page.goto(address);
  const toms = await browser.newContext();
  const tom = await toms.newPage();
  await comeIn(tom, 'Tom Varley');
  await tom.goto(address);
  await expect(reading(tom)).toBeVisible();
  await expect(page.getByRole('list', { name: 'Also in this study' })).toContainText('Tom Varley');
  await expect(tom.getByRole('list', { name: 'Also in this study' })).toContainText('Ida Moss');

  await select(page, 'the hip, and then the other hip');
  await page.keyboard.type('two hips');
  await page.keyboard.press('Enter');
  await expect(reading(tom).getByRole('button', { name: 'two hips' })).toBeVisible();
  await expect(tom.getByRole('complementary', { name: 'Tag shelf' })).toContainText('two hips');
  await page.keyboard.press('Control+z');
  await expect(reading(tom).getByRole('button', { name: 'two hips' })).toHaveCount(0);

  // A theme that one makes is on the other's table at once.
  const study = await demoStudy(page);
  await tom.goto(`${study}/sort`);
  await expect(tom.getByRole('complementary', { name: 'Unsorted' })).toBeVisible();
  await write(page, 'post', `/api${study}/themes`, { title: 'A theme of two', description: '', parentId: null, observationIds: [], tagIds: [] });
  await expect(tom.getByRole('region', { name: 'A theme of two' })).toBeVisible();
  await write(page, 'post', '/api/undo', { studyId: Number(study.split('/').at(-1)), actionId: null });
  await expect(tom.getByRole('region', { name: 'A theme of two' })).toHaveCount(0);

  await toms.close();
  await expect(page.getByRole('list', { name: 'Also in this study' })).toHaveCount(0);
});
