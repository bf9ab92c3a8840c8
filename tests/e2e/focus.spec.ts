import { type Page } from '@playwright/test';
import { expect, test } from './demo';
import { comeIn, demoStudy } from './people';

/** What has the focus, in words; null where it is on the bare page and all keys would be dead. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const now = document.activeElement;
    if (!now || now === document.body) return null;
    return `${now.tagName} ${now.getAttribute('role') ?? ''} ${now.getAttribute('aria-label') ?? now.textContent.trim().slice(0, 40)}`.trim();
  });

const somewhere = (page: Page, where: string) => expect.poll(() => focused(page), { message: where, timeout: 5000 }).not.toBeNull();

/** Opens what a button of the page opens, by its key, and leaves it by Escape. */
async function throughDialogs(page: Page, where: string) {
  const openers = page.locator('main button:visible:enabled').filter({ hasText: /…|New |Paste|Add |Team|Protect|codebook/ });
  const names = (await openers.allTextContents()).slice(0, 8);
  for (const name of names) {
    const opener = openers.filter({ hasText: name }).first();
    // What another dialog has changed may be there no more, or be disabled.
    const opened = await opener.press('Enter', { timeout: 2000 }).then(
      () => true,
      () => false,
    );
    if (!opened) continue;
    const dialog = page.getByRole('dialog');
    if ((await dialog.count()) === 0) continue;
    await expect.poll(() => page.evaluate(() => document.activeElement?.closest('[role="dialog"]') !== null), { message: `${where}: in “${name}”` }).toBe(true);
    await page.keyboard.press('Escape');
    await expect(dialog).toHaveCount(0);
    await somewhere(page, `${where}: after “${name}”`);
  }
}

for (const half of [0, 1]) {
  test(`focus is never left on the bare page, ${half === 0 ? 'the first' : 'the other'} half`, async ({ page }) => {
    test.setTimeout(150_000);
    await comeIn(page);
    const study = await demoStudy(page);
    const { sources }: { sources: { id: number; title: string }[] } = await (await page.request.get(`/api${study}/sources?page=0`)).json();
    const sourceOf = (title: string) => sources.find((s) => s.title === title)!.id;
    const pages: [string, string, RegExp?][] = [
      ['/', 'Boarding without a car'],
      [`${study}/mark?source=2`, 'Interview at the kitchen table', /^DIV region Text of/],
      [`${study}/mark?source=${sourceOf('P08 kiosk, film')}`, 'thinks aloud', /^DIV region Recording/],
      [`${study}/mark?source=${sourceOf('Signs on the quay')}`, 'screen says otherwise', /^DIV region Picture/],
      ['/tags', 'learnt on the quay'],
      ['/exhibits/1', 'Insights on show'],
      [study, 'Research questions'],
      [`${study}/gather`, 'Quay notebook'],
      [`${study}/gather/sessions`, 'Morning on the quay'],
      [`${study}/gather/people`, 'recruited on'],
      [`${study}/gather/privacy`, 'Also look for these words'],
      [`${study}/mark/notes`, 'Notes'],
      [`${study}/mark/find?typed=cancel`, 'Choose all'],
      ['/intake', 'by the watch'],
      [`${study}/sort`, 'A ticket with a name on it'],
      [`${study}/sort/tags`, 'learnt on the quay'],
      [`${study}/tags/2`, 'Telling quotes'],
      [`${study}/weigh`, 'told by neighbours'],
      [`${study}/show`, 'already on the quay'],
      [`${study}/show/4`, 'What it rests on'],
      ['/no-such-page', 'There is no page at this address'],
    ];
    for (const [address, words, has] of pages.filter((_, i) => i % 2 === half)) {
      await page.goto(address);
      await expect(page.getByText(words, { exact: false }).first()).toBeVisible();
      await somewhere(page, address);
      if (has) await expect.poll(() => focused(page), { message: address }).toMatch(has);
      // All three where keys go to one thing on the page; elsewhere one of them.
      for (const key of has ? ['?', 'u', 'Control+k'] : ['?']) {
        await page.evaluate(() => (document.activeElement as HTMLElement | null)?.matches('input') && (document.activeElement as HTMLElement).blur());
        await page.keyboard.press(key);
        await expect(page.getByRole('dialog')).toBeVisible();
        await page.keyboard.press('Escape');
        await expect(page.getByRole('dialog')).toHaveCount(0);
        await somewhere(page, `${address}: after ${key}`);
        if (has) await expect.poll(() => focused(page), { message: `${address}: after ${key}` }).toMatch(has);
      }
      await throughDialogs(page, address);
    }
  });
}

test('the source that one came for has the focus, by the palette, by a link, and back', async ({ page }) => {
  await comeIn(page);
  const study = await demoStudy(page);
  await page.goto(study);
  await expect(page.getByText('Research questions')).toBeVisible();
  const words = /^DIV region Text of/;
  await page.keyboard.press('Control+k');
  await page.keyboard.type('Sorrel');
  await page.getByRole('option').filter({ hasText: 'P03 Sorrel' }).first().click();
  await expect.poll(() => focused(page)).toMatch(words);
  await page.keyboard.press('}');
  await expect.poll(() => focused(page)).toMatch(words);
  await page.goBack();
  await expect.poll(() => focused(page)).toMatch(words);
  await page.reload();
  await expect.poll(() => focused(page)).toMatch(words);
  // A label opens the drawer; closed, it gives the focus back.
  await page.getByRole('navigation', { name: 'Stages of the study' }).getByRole('link', { name: 'Weigh' }).click();
  const cell = page.getByRole('table').getByRole('button').first();
  await cell.press('Enter');
  await expect(page.getByLabel('Evidence', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Evidence', { exact: true })).toHaveCount(0);
  await expect(cell).toBeFocused();
  // The first thing of a page leads to what it is for.
  await page.goto(`${study}/mark?source=2`);
  await page.getByRole('button', { name: 'Skip to the page' }).press('Enter');
  await expect.poll(() => focused(page)).toMatch(words);
});
