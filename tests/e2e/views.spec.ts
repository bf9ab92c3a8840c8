import { type Page } from '@playwright/test';
import axe from 'axe-core';
import { expect, test } from './demo';
import { comeIn, demoStudy, write } from './people';

/** What is not accessible of a page; in dark only the colours are others, and what a page is built of was looked at in light. Of a long table ten rows speak for all. */
async function violations(page: Page, theme: 'light' | 'dark') {
  if (theme === 'light') await page.evaluate(axe.source);
  const found = await page.evaluate(
    async (runOnly) => {
      const { axe } = window as unknown as { axe: typeof import('axe-core') };
      // What passed is not told: it costs more than the looking.
      const { violations } = await axe.run({ exclude: ['tbody tr:nth-child(n + 11)'] }, { runOnly, resultTypes: ['violations'] });
      return violations.map((v) => [v.id, ...v.nodes.slice(0, 3).map((n) => n.target.join(' '))]);
    },
    theme === 'dark' ? ['color-contrast'] : ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'],
  );
  return found.map(([id, ...where]) => `${id}: ${where.join(' | ')}`);
}

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

/** Whether the keys of a page reach it after each dialog; and what has the focus there, where one thing has. */
async function keysOf(page: Page, where: string, has?: RegExp) {
  await somewhere(page, where);
  if (has) await expect.poll(() => focused(page), { message: where }).toMatch(has);
  // All three where keys go to one thing on the page; elsewhere one of them.
  for (const key of has ? ['?', 'u', 'Control+k'] : ['?']) {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.matches('input') && (document.activeElement as HTMLElement).blur());
    await page.keyboard.press(key);
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await somewhere(page, `${where}: after ${key}`);
    if (has) await expect.poll(() => focused(page), { message: `${where}: after ${key}` }).toMatch(has);
  }
  await throughDialogs(page, where);
}

test.describe.configure({ mode: 'parallel' });

for (const half of [0, 1]) {
  test(`every main view is accessible in light and dark, and its keys are never dead, ${half === 0 ? 'the first' : 'the other'} half`, async ({ page }) => {
    test.setTimeout(240_000);
    await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
    await comeIn(page);
    const study = await demoStudy(page);
    const cells = 'who\tHow easy was it?\tWhat would you change?\nS1\t4\tThe board at the head of the quay.\nS2\t2\tTell us earlier than that.';
    const table = await write(page, 'post', `/api${study}/imports/pasted-table`, { name: 'Quay survey', text: cells });
    const { sources }: { sources: { id: number; title: string }[] } = await (await page.request.get(`/api${study}/sources?page=0`)).json();
    const sourceOf = (title: string) => sources.find((s) => s.title === title)!.id;
    const keys = true;
    const views: [string, string, (true | RegExp)?][] = [
      ['/', 'Boarding without a car', keys],
      ['/tags', 'learnt on the quay', keys],
      ['/tags/history?day=%222020-01-01%22', 'It had no tag yet'],
      ['/tags/proposals', 'nobody’s job'],
      ['/tags/2', 'Boarding without a car'],
      ['/exhibits', 'What happens to foot passengers'],
      ['/exhibits/1', 'Insights on show', keys],
      ['/people', 'runs the workspace'],
      ['/search?typed=kiosk', 'Words in sources'],
      [study, 'Research questions', keys],
      [`${study}/gather`, 'Quay notebook', keys],
      [`${study}/gather/sessions`, 'Morning on the quay', keys],
      [`${study}/gather/attachments`, 'Discussion guide'],
      [`${study}/gather/people`, 'recruited on', keys],
      [`${study}/gather/people/2`, 'Attributes'],
      [`${study}/gather/table/${table.key}`, 'What the columns of this table are'],
      [`${study}/mark?source=2`, 'Interview at the kitchen table', /^DIV region Text of/],
      [`${study}/mark?source=2&beside=9`, 'Getting a ticket'],
      [`${study}/mark?source=${sourceOf('P08 kiosk, film')}`, 'thinks aloud', /^DIV region Recording/],
      [`${study}/mark?source=${sourceOf('Signs on the quay')}`, 'screen says otherwise', /^DIV region Picture/],
      [`${study}/mark/correct/2`, 'Correct P03 Sorrel'],
      [`${study}/mark/to-look-at`, 'To look at after corrections'],
      [`${study}/mark/find?typed=cancel`, 'Choose all', keys],
      [`${study}/mark/found`, 'Nothing waits'],
      [`${study}/mark/more/3`, 'It begins with'],
      [`${study}/weigh/agreement`, 'How far they agree'],
      [`${study}/gather/privacy`, 'Also look for these words', keys],
      [`${study}/gather/look?sources=2,9`, 'A look before it counts'],
      [`${study}/gather/people/3/withdraw`, 'What the withdrawal of Sorrel touches'],
      [`${study}/gather/sessions/8/live`, 'Start the clock'],
      ['/intake', 'by the watch', keys],
      [`${study}/sort`, 'A ticket with a name on it', keys],
      [`${study}/sort/outline`, 'Seat covers are worn', keys],
      [`${study}/sort/themes/3`, 'Where it is thin', keys],
      [`${study}/sort/suggestions`, 'Themes from 24 tags', keys],
      [`${study}/sort/suggestions/1`, 'Said here more', keys],
      [`${study}/sort/who-next`, 'Hardly heard', keys],
      [`${study}/mark/more/3?theme=1`, 'For the theme'],
      [`${study}/sort/tags`, 'learnt on the quay', keys],
      [`${study}/sort/split/4`, 'someone waiting'],
      [`${study}/weigh`, 'told by neighbours', keys],
      [`${study}/weigh?view=overlaps`, 'told by neighbours'],
      [`${study}/weigh?view=participants&evidence=%7B%22tagId%22%3A2%7D`, 'Make an insight'],
      [`${study}/show`, 'already on the quay', keys],
      [`${study}/show/4`, 'What it rests on', keys],
      ['/sign-in', 'Come in as'],
      [`${study}/mark/notes`, 'Notes', keys],
      [`${study}/tags/2`, 'Telling quotes', keys],
      ['/no-such-page', 'There is no page at this address', keys],
    ];
    const all: string[] = [];
    // The colours of dark are few, and every other view shows them all.
    const look = async (view: string, themes: readonly ('light' | 'dark')[] = ['light', 'dark']) => {
      for (const theme of themes) {
        await page.emulateMedia({ colorScheme: theme, reducedMotion: 'reduce' });
        for (const v of await violations(page, theme)) all.push(`${view} in ${theme}: ${v}`);
      }
    };
    for (const [i, [address, words, has]] of views.filter((_, at) => at % 2 === half).entries()) {
      await page.goto(address);
      await expect(page.getByText(words, { exact: false }).first()).toBeVisible();
      // Pages scroll within themselves: the bar with the way to everything stays.
      if (await page.evaluate(() => document.scrollingElement!.scrollHeight > innerHeight)) all.push(`${address}: the window scrolls`);
      await look(address, i % 2 === 0 ? ['light', 'dark'] : ['light']);
      // A button may lead elsewhere: last.
      if (has) await keysOf(page, address, has === keys ? undefined : has);
    }
    if (half === 0) return void expect(all).toEqual([]);
    await page.goto(study);
    await expect(page.getByText('Research questions')).toBeVisible();
    await page.keyboard.press('Control+k');
    await page.keyboard.type('cancel');
    await expect(page.getByText('Words in sources')).toBeVisible();
    await look('palette');
    const link = await write(page, 'post', '/api/exhibits/1/links', {});
    await page.goto(`/read/${link.token}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await look('reader');
    expect(all).toEqual([]);
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
