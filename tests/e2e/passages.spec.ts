import { expect, test } from './demo';
import { comeIn, goTo, newText, write } from './people';

const talk = [
  'Ida: How do you hear?',
  'Wren: They cancelled it again. The cancelling is not the trouble.',
  'Wren: A neighbour rang me. My sister rang before that.',
  'Wren: Cancellations come late, and the kiosk says nothing.',
].join('\n\n');

test('what a search finds is tagged in one step, looked at by keys, and taken back', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Passages', 'P01', talk);
  await page.keyboard.press('F');
  await expect(page.getByRole('textbox', { name: 'Words to find' })).toBeFocused();
  await page.keyboard.type('cancel -kiosk');
  const passages = page.getByRole('region', { name: 'Passages' });
  await expect(passages.getByRole('checkbox')).toHaveCount(2);
  await expect(page.getByText('2 passages, ')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('a');
  await expect(page.getByRole('group', { name: 'Chosen passages' })).toContainText('2 passages chosen');
  await page.keyboard.press('t');
  await page.getByRole('combobox').fill('called off');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Tagged 2 passages')).toBeVisible();

  await page.getByRole('link', { name: 'What was found and not reviewed' }).click();
  const found = page.getByRole('list', { name: 'Found' }).getByRole('listitem');
  await expect(found).toHaveCount(2);
  await page.keyboard.press('a');
  await expect(found).toHaveCount(1);
  await page.keyboard.press('d');
  await expect(page.getByText('Nothing waits')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(found).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(found).toHaveCount(2);
  await page.getByRole('link', { name: 'Run it again' }).click();
  await expect(page.getByText('No passage holds these words.')).toBeVisible();

  // The tag shelf says that it counts them, and leaves them out, as the evidence behind it does.
  await goTo(page, 'Mark');
  const shelf = page.getByRole('complementary', { name: 'Tag shelf' });
  await expect(shelf).toContainText('Some that are counted were found, not reviewed.');
  await expect(shelf.getByRole('button', { name: /^People/ })).toHaveCount(1);
  await shelf.getByRole('button', { name: 'Leave them out' }).click();
  await expect(shelf.getByRole('button', { name: /^People/ })).toHaveCount(0);
  await shelf.getByRole('button', { name: 'called off' }).click();
  await expect(page.getByRole('complementary', { name: 'Evidence' })).toContainText('0 observations');
  await page.keyboard.press('Escape');
  await shelf.getByRole('button', { name: 'Count all' }).click();
  await expect(shelf.getByRole('button', { name: /^People/ })).toHaveCount(1);
});

test('more is found by likeness, and each answer leads on', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'More', 'P01', talk);
  await page.keyboard.press('F');
  await expect(page.getByRole('textbox', { name: 'Words to find' })).toBeFocused();
  await page.keyboard.type('neighbour');
  await expect(page.getByRole('region', { name: 'Passages' }).getByRole('checkbox')).toHaveCount(1);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  await page.getByLabel('I have looked at each').check();
  await page.getByRole('button', { name: 'Tag t' }).click();
  await page.getByRole('combobox').fill('told by others');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Tagged a passage')).toBeVisible();
  await page.getByRole('button', { name: 'told by others' }).or(page.getByText('told by others')).first().waitFor();
  const study = /studies\/(\d+)/.exec(page.url())![1]!;
  const tags: { id: number; name: string }[] = await (await page.request.get(`/api/studies/${study}/tags`)).json();
  await page.goto(`/studies/${study}/mark/more/${tags.find((t) => t.name === 'told by others')!.id}`);
  const offered = page.getByRole('list', { name: 'Passages that may be meant too' });
  await expect(offered).toContainText('My sister rang before that.');
  await expect(offered).toContainText('found by “rang”');
  await page.keyboard.press('y');
  await expect(page.getByText('2 observations;')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(offered).toContainText('My sister rang before that.');

  // For a theme, one key tags the passage and lays it there with its stance; one undo takes both back.
  const theme = { title: 'Nobody is told', description: '', parentId: null, observationIds: [], tagIds: [] };
  const { id: themeId } = await write(page, 'post', `/api/studies/${study}/themes`, theme);
  await page.getByRole('button', { name: 'none' }).click();
  await page.getByRole('checkbox', { name: 'Nobody is told' }).check();
  await page.keyboard.press('Escape');
  await page.keyboard.press('a');
  const against = async () => (await (await page.request.get(`/api/themes/${themeId}`)).json()).view.facts.contradicting as number;
  await expect.poll(against).toBe(1);
  await expect(page.getByText('2 observations;')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(against).toBe(0);
  await expect(offered).toContainText('My sister rang before that.');
});

test('two people tag a source blind, it opens when both are done, and what they differ on is settled by keys', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Agreed', 'P01', talk);
  const [, study, source] = /studies\/(\d+)\/mark\?source=(\d+)/.exec(page.url())!;
  const { text }: { text: string } = await (await page.request.get(`/api/sources/${source}`)).json();
  const mark = (words: string, tag: string) =>
    write(page, 'post', `/api/sources/${source}/observations`, {
      anchor: { kind: 'text', start: text.indexOf(words), end: text.indexOf(words) + words.length },
      tagIds: [],
      newTags: [tag],
    });
  const accounts: { id: number; name: string }[] = await (await page.request.get('/api/accounts')).json();
  await write(page, 'put', `/api/studies/${study}/members`, { accountIds: accounts.filter((a) => /Ida|Tom/.test(a.name)).map((a) => a.id) });
  await page.getByRole('button', { name: 'by everyone' }).click();
  await page.getByRole('button', { name: 'Have it tagged blind' }).click();
  await page.getByRole('checkbox', { name: 'Ida Moss' }).check();
  await page.getByRole('checkbox', { name: 'Tom Varley' }).check();
  await page.getByRole('button', { name: 'Give it to them' }).click();
  await expect(page.getByText('You tag this source blind')).toContainText('Tom is still tagging');
  await mark('They cancelled it again.', 'called off');
  await mark('A neighbour rang me.', 'told by others');
  await page.reload();
  await expect(page.getByRole('button', { name: /told by others/ }).first()).toBeVisible();
  await page.getByRole('button', { name: 'I am done' }).click();
  await expect(page.getByRole('button', { name: 'Not done yet' })).toBeVisible();

  await comeIn(page, 'Tom Varley');
  await page.reload();
  await expect(page.getByText('You tag this source blind')).toContainText('Ida is done');
  await expect(page.locator('[id^="label-"]')).toHaveCount(0);
  await mark('They cancelled it again. The cancelling is not the trouble.', 'called off');
  await mark('My sister rang before that.', 'told by others');
  await page.goto(`/studies/${study}/weigh/agreement`);
  await expect(page.getByText('Still tagged blind')).toBeVisible();
  await page.goto(`/studies/${study}/mark?source=${source}`);
  await page.getByRole('button', { name: 'I am done' }).click();
  await expect(page.getByText('and open now')).toBeVisible();
  await page.getByRole('link', { name: 'How far they agree' }).click();

  await expect(page.getByRole('row', { name: /^called off/ })).toContainText('101');
  await page.getByRole('button', { name: 'told by others' }).click();
  const differ = page.getByRole('list', { name: 'Where they differ' }).getByRole('listitem');
  await expect(differ).toHaveCount(2);
  await expect(page.getByText('they differ on 2 sentences')).toBeVisible();
  await page.keyboard.press(']');
  await page.keyboard.press('2');
  await expect(differ.first()).toContainText('settled: Tom’s, by Tom Varley');
  await page.keyboard.press(']');
  await page.keyboard.press('3');
  await expect(differ.nth(1)).toContainText('settled: both, by Tom Varley');
  await page.getByRole('button', { name: 'called off', exact: true }).click();
  await expect(differ).toContainText(['The cancelling is not the trouble.']);
  await page.keyboard.press(']');
  await page.keyboard.press('5');
  await expect(differ.first()).toContainText('to be talked about');
  // What was settled as it is not is gone from the text, and comes back with undo; the figures stay as they were marked.
  await expect(page.getByRole('row', { name: /^told by others/ })).toContainText('011');
  await page.goto(`/studies/${study}/mark/find?marked=true`);
  await expect(page.getByRole('group', { name: /^Observation of/ }).filter({ hasText: 'told by others' })).toHaveCount(1);
});
