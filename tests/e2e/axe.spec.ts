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

test.describe.configure({ mode: 'parallel' });

for (const half of [0, 1]) {
  test(`every main view is accessible in light and dark, ${half === 0 ? 'the first' : 'the other'} half`, async ({ page }) => {
    test.setTimeout(180_000);
    await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
    await comeIn(page);
    const study = await demoStudy(page);
    const cells = 'who\tHow easy was it?\tWhat would you change?\nS1\t4\tThe board at the head of the quay.\nS2\t2\tTell us earlier than that.';
    const table = await write(page, 'post', `/api${study}/imports/pasted-table`, { name: 'Quay survey', text: cells });
    const { sources }: { sources: { id: number; title: string }[] } = await (await page.request.get(`/api${study}/sources?page=0`)).json();
    const sourceOf = (title: string) => sources.find((s) => s.title === title)!.id;
    const views: [string, string][] = [
      ['/', 'Boarding without a car'],
      ['/tags', 'learnt on the quay'],
      ['/tags/history?day=%222020-01-01%22', 'It had no tag yet'],
      ['/tags/proposals', 'nobody’s job'],
      ['/tags/2', 'Boarding without a car'],
      ['/exhibits', 'What happens to foot passengers'],
      ['/exhibits/1', 'Insights on show'],
      ['/people', 'runs the workspace'],
      ['/search?typed=kiosk', 'Words in sources'],
      [study, 'Research questions'],
      [`${study}/gather`, 'Quay notebook'],
      [`${study}/gather/sessions`, 'Morning on the quay'],
      [`${study}/gather/attachments`, 'Discussion guide'],
      [`${study}/gather/people`, 'recruited on'],
      [`${study}/gather/people/2`, 'Attributes'],
      [`${study}/gather/table/${table.key}`, 'What the columns of this table are'],
      [`${study}/mark?source=2`, 'Interview at the kitchen table'],
      [`${study}/mark?source=2&beside=9`, 'Getting a ticket'],
      [`${study}/mark?source=${sourceOf('P08 kiosk, film')}`, 'thinks aloud'],
      [`${study}/mark?source=${sourceOf('Signs on the quay')}`, 'screen says otherwise'],
      [`${study}/mark/correct/2`, 'Correct P03 Sorrel'],
      [`${study}/mark/to-look-at`, 'To look at after corrections'],
      [`${study}/mark/find?typed=cancel`, 'Choose all'],
      [`${study}/mark/found`, 'Nothing waits'],
      [`${study}/mark/more/3`, 'It begins with'],
      [`${study}/weigh/agreement`, 'How far they agree'],
      [`${study}/gather/privacy`, 'Also look for these words'],
      [`${study}/gather/look?sources=2,9`, 'A look before it counts'],
      [`${study}/gather/people/3/withdraw`, 'What the withdrawal of Sorrel touches'],
      [`${study}/gather/sessions/8/live`, 'Start the clock'],
      ['/intake', 'by the watch'],
      [`${study}/sort`, 'A ticket with a name on it'],
      [`${study}/sort/tags`, 'learnt on the quay'],
      [`${study}/sort/split/4`, 'someone waiting'],
      [`${study}/weigh`, 'told by neighbours'],
      [`${study}/weigh?view=overlaps`, 'told by neighbours'],
      [`${study}/weigh?view=participants&evidence=%7B%22tagId%22%3A2%7D`, 'Make an insight'],
      [`${study}/show`, 'already on the quay'],
      [`${study}/show/4`, 'What it rests on'],
      ['/sign-in', 'Come in as'],
    ];
    const all: string[] = [];
    // The colours of dark are few, and every other view shows them all.
    const look = async (view: string, themes: readonly ('light' | 'dark')[] = ['light', 'dark']) => {
      for (const theme of themes) {
        await page.emulateMedia({ colorScheme: theme, reducedMotion: 'reduce' });
        for (const v of await violations(page, theme)) all.push(`${view} in ${theme}: ${v}`);
      }
    };
    for (const [i, [address, words]] of views.filter((_, at) => at % 2 === half).entries()) {
      await page.goto(address);
      await expect(page.getByText(words, { exact: false }).first()).toBeVisible();
      await look(address, i % 2 === 0 ? ['light', 'dark'] : ['light']);
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
