import { expect, test } from './demo';
import { comeIn, newText, write } from './people';

const talk = 'Wren: A neighbour rang me. The man in the shop told my sister. The screen said nothing.';

test('near-twins are found, merged with what happens shown first, and come apart again with one undo', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Twins', 'P01', talk);
  const [, study, source] = /studies\/(\d+)\/mark\?source=(\d+)/.exec(page.url())!;
  const mark = (words: string, tag: string) =>
    write(page, 'post', `/api/sources/${source}/observations`, {
      anchor: { kind: 'text', start: talk.indexOf(words), end: talk.indexOf(words) + words.length },
      tagIds: [],
      newTags: [tag],
    });
  await mark('A neighbour rang me.', 'rung up by somebody');
  await mark('The man in the shop told my sister.', 'somebody rung up');
  await mark('The screen said nothing.', 'silent screens');
  await page.goto('/tags/twins');
  const pair = page.getByRole('list', { name: 'Pairs of tags' }).getByRole('listitem').filter({ hasText: 'rung up by somebody' });
  await expect(pair).toContainText('the same words but for their endings');
  await expect(pair).toContainText('The man in the shop told my sister.');
  await pair.click();
  await page.keyboard.press('m');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('is then on 2 observations in Twins');
  await dialog.getByRole('radio').nth(1).check();
  await dialog.getByLabel('What it is', { exact: true }).fill('Heard by telephone.');
  await dialog.getByRole('button', { name: 'Merge' }).click();
  await expect(pair).toHaveCount(0);
  const tags = async () =>
    ((await (await page.request.get(`/api/studies/${study}/tags`)).json()) as { studyId: number | null; name: string; aliases: string[] }[]).filter(
      (t) => t.studyId !== null,
    );
  await expect.poll(async () => (await tags()).map((t) => `${t.name}: ${t.aliases}`)).toEqual(['somebody rung up: rung up by somebody', 'silent screens: ']);
  await page.keyboard.press('Control+z');
  await expect(pair).toHaveCount(1);

  // From the tag set: one is chosen and merged into another by its name.
  await page.getByRole('link', { name: 'Tag set' }).last().click();
  await page.getByRole('checkbox', { name: 'Choose silent screens' }).check();
  await page.keyboard.press('m');
  await page.getByRole('combobox', { name: 'Tag' }).fill('screen says');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('“screen says otherwise” is then on');
  await page.getByRole('dialog').getByRole('button', { name: 'Merge' }).click();
  await expect(page.getByText('Merged the tag “silent screens” into “screen says otherwise”')).toBeVisible();
  await expect(page.getByRole('checkbox', { name: 'Choose silent screens' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('checkbox', { name: 'Choose silent screens' })).toHaveCount(1);
});
