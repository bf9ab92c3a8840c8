import { expect, test } from './demo';
import { drag, goTo, paste, reading, select } from './people';

const interview = `[00:00:05] Interviewer: How did you hear that the boat was off?
[00:00:11] Marnie: I was standing on the quay already. The man from the shop told me.
[00:00:20] Interviewer: And what did you do?
[00:00:24] Marnie: I went home with the box. It is always the box.
[00:00:40] Interviewer: Would a message have helped?
[00:00:44] Marnie: Before I loaded the van, yes. After that it is only bad news twice.`;

test('a newcomer goes from a pasted interview to a published insight', async ({ page, browser }) => {
  await page.goto('/sign-in');
  await page.getByRole('button', { name: 'Ida Moss' }).click();
  await page.getByRole('button', { name: 'New study' }).click();
  await page.getByLabel('Title').fill('My first study');
  await page.getByRole('button', { name: 'Make the study' }).click();
  await expect(page.getByRole('navigation', { name: 'Stages of the study' })).toBeVisible();

  // Gather: a participant with an attribute, then the interview, whose speakers are matched.
  await goTo(page, 'Gather');
  await page.getByRole('link', { name: /^Participants/ }).click();
  await page.getByRole('button', { name: 'Add a participant' }).click();
  await page.getByLabel('Pseudonym').fill('Sorrel');
  await page.getByLabel('Real name, if you need it').fill('Marnie Quillfeather');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Add an attribute' }).click();
  await page.getByLabel('Name', { exact: true }).fill('home');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('gridcell', { name: 'home of Sorrel: empty' }).dblclick();
  await page.getByLabel('home of Sorrel').fill('Skelda');
  await page.getByLabel('home of Sorrel').press('Enter');
  await expect(page.getByRole('gridcell', { name: 'home of Sorrel: Skelda' })).toBeVisible();
  await page.getByRole('link', { name: /^Sources/ }).click();
  await paste(page, 'P01 Sorrel', interview);
  await expect(page.getByLabel('Who is Marnie?')).toHaveValue(/\d+/);
  await expect(page.getByLabel('Who is Interviewer?')).toHaveValue('team');
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('row', { name: /P01 Sorrel P01 Sorrel interview/ })).toContainText('Sorrel');

  // Mark by the mouse: two tags at once, one of them new.
  await page.getByRole('link', { name: 'P01 Sorrel' }).click();
  await select(page, 'standing on the quay already');
  await page.keyboard.type('learnt on');
  await page.keyboard.press(',');
  await page.keyboard.type('a thing of my own');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'learnt on the quay' })).toBeVisible();
  await expect(reading(page).getByRole('button', { name: 'a thing of my own' })).toBeVisible();
  await expect(page.getByRole('complementary', { name: 'Tag shelf' }).getByRole('region', { name: 'Draft tags' })).toContainText('a thing of my own');
  await select(page, 'The man from the shop told me.');
  await page.keyboard.type('told by');
  await page.keyboard.press('Enter');
  await select(page, 'only bad news twice');
  await page.keyboard.press('"');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'only bad news twice' })).toBeVisible();
  await expect(page.getByRole('link', { name: /^Mark 3 observations/ })).toBeVisible();

  // Sort: a theme of a dragged observation, then a whole tag put in by the keys.
  await goTo(page, 'Sort');
  await page.getByRole('button', { name: 'Make the first theme' }).click();
  await page.getByLabel('Title').fill('News comes too late');
  await page.getByLabel('Description').fill('It reaches people when nothing can be done any more.');
  await page.getByRole('button', { name: 'Make the theme' }).click();
  const theme = page.getByRole('region', { name: 'News comes too late' });
  await drag(page, page.getByRole('listitem').filter({ hasText: 'only bad news twice' }).first(), theme);
  await expect(theme).toContainText('1 observation');
  await page.getByRole('tab', { name: /^Tags/ }).click();
  await page.getByLabel('Choose “learnt on the quay”').focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('t');
  await page.getByRole('combobox', { name: 'Theme' }).fill('late');
  await page.keyboard.press('Enter');
  await expect(theme).toContainText('2 observations');
  await expect(theme).toContainText('Single voice');

  // Weigh: the cell opens its words, and the words become an insight.
  await goTo(page, 'Weigh');
  await page.getByRole('button', { name: /^learnt on the quay, P01 Sorrel: 1 observation/ }).click();
  const drawer = page.getByRole('complementary', { name: 'Evidence' });
  await expect(drawer).toContainText('standing on the quay already');
  await expect(drawer).toContainText('1 of 1 person');
  await drawer.getByRole('button', { name: 'Make an insight' }).click();
  await page.getByLabel('Headline').fill('Marnie and others hear on the quay');
  await page.getByRole('button', { name: 'Make the insight' }).click();
  await expect(page.getByLabel('Headline')).toHaveValue('Marnie and others hear on the quay');
  await expect(page.getByRole('region', { name: 'Supports it' })).toContainText('standing on the quay already');
  await expect(page.getByText('Single voice')).toBeVisible();
  await page.getByRole('textbox', { name: 'Story' }).fill('She had gone down already.');
  await page.getByRole('button', { name: 'quote in the story' }).click();
  await expect(page.getByRole('textbox', { name: 'Story' })).toContainText('standing on the quay already');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.getByLabel('Stance').selectOption('contradicts');
  await expect(page.getByRole('region', { name: 'Says otherwise' })).toBeVisible();
  await page.getByLabel('Stance').selectOption('supports');

  // Show: an exhibit by a secret link, read by someone without an account.
  await page.getByRole('link', { name: 'Exhibits' }).click();
  await page.getByRole('button', { name: 'New exhibit' }).click();
  await page.getByLabel('Question').fill('Where do people hear?');
  await page.getByRole('button', { name: 'Make the exhibit' }).click();
  await page.getByRole('button', { name: 'Add “Marnie and others hear on the quay”' }).click();
  // Whoever has not answered is left out; the exhibit says so, and there it is settled.
  await page.getByRole('region', { name: 'Whose words are left out' }).getByRole('button', { name: 'Sorrel has agreed' }).click();
  await expect(page.getByRole('region', { name: 'Whose words are left out' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Publish by a secret link' }).click();
  const link = await page.getByLabel('The link').inputValue();

  const stranger = await browser.newContext();
  const reader = await stranger.newPage();
  await reader.goto(link);
  await expect(reader.getByRole('heading', { name: 'Where do people hear?' })).toBeVisible();
  await expect(reader.getByText('Sorrel and others hear on the quay')).toBeVisible();
  await expect(reader.getByText('She had gone down already.')).toBeVisible();
  await expect(reader.getByRole('blockquote')).toHaveCount(2);
  await reader.getByRole('button', { name: 'In context' }).first().click();
  await expect(reader.getByRole('dialog')).toContainText('How did you hear that the boat was off?');
  await expect(reader.getByRole('dialog').locator('mark')).toHaveText('standing on the quay already');
  expect(await reader.content()).not.toContain('Marnie');

  await page.getByRole('button', { name: 'Revoke' }).click();
  await expect(page.getByText('revoked', { exact: true })).toBeVisible();
  await reader.reload();
  await expect(reader.getByRole('alert')).toContainText('does not open anything any more');
  await stranger.close();
});
