import { expect, test } from './demo';
import { comeIn, demoStudy, newText, reading, rich, write } from './people';

test('what is taken back leaves its page, and a redo right after finds it again', async ({ page }) => {
  await comeIn(page);
  const study = await demoStudy(page);
  const { id } = await write(page, 'post', `/api${study}/insights`, { headline: 'Gone in a moment', story: rich(), observationIds: [] });
  await page.goto(`${study}/show/${id}`);
  await expect(page.getByLabel('Headline')).toHaveValue('Gone in a moment');
  await page.keyboard.press('Control+z');
  await expect(page).toHaveURL(new RegExp(`${study}/show$`));
  await expect(page.getByText('What was open here is not there any more.')).toBeVisible();
  await page.keyboard.press('Control+Shift+Z');
  await expect(page.getByRole('main').getByText('Gone in a moment')).toBeVisible();
  // Both at once: the second is meant for what the first has undone.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+Shift+Z');
  await expect(page.getByText('Redid: Made the insight “Gone in a moment”').last()).toBeVisible();
  await expect(page.getByRole('main').getByText('Gone in a moment')).toBeVisible();
  await page.keyboard.press('Control+z');
});

test('a new study has its own tags on the shelf, files dropped on any page, and no page widened by a title', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'W'.repeat(190), 'V'.repeat(190), 'Ida: How was it?\n\nWren: Late again.\n\nIda: Why?\n\nWren: Wind.');
  const shelf = page.getByRole('complementary', { name: 'Tag shelf' });
  const fold = shelf.getByRole('button', { name: /^Shared tags not used here, \d+$/ });
  await expect(fold).toHaveAttribute('aria-expanded', 'false');
  await expect(shelf.getByRole('button', { name: 'told by neighbours' })).toHaveCount(0);
  await shelf.getByLabel('Find a tag').fill('neighbours');
  await expect(shelf.getByRole('button', { name: 'told by neighbours' })).toBeVisible();
  await shelf.getByLabel('Find a tag').fill('');
  // Nothing but the words, and back by Escape.
  await reading(page).focus();
  await page.keyboard.press('z');
  await expect(shelf).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(shelf).toBeVisible();

  const files = await page.evaluateHandle(() => {
    const data = new DataTransfer();
    data.items.add(new File(['Wren: It came in time.'], 'dropped.txt', { type: 'text/plain' }));
    return data;
  });
  await reading(page).dispatchEvent('drop', { dataTransfer: files });
  await expect(page.getByText('1 file is coming in.')).toBeVisible();
  await page.getByRole('button', { name: 'Show' }).click();
  await expect(page.getByText('dropped', { exact: true })).toBeVisible();
  const study = new URL(page.url()).pathname.replace(/\/gather$/, '');
  for (const address of ['/', study, `${study}/gather`, `${study}/mark/notes`, '/intake']) {
    await page.goto(address);
    await expect(page.getByRole('main')).toBeVisible();
    const wide = () =>
      page.evaluate(() =>
        [document.documentElement, ...document.querySelectorAll('main, main div')]
          .filter((e) => e.scrollWidth > e.clientWidth + 2 && !['hidden', 'clip'].includes(getComputedStyle(e).overflowX) && e.clientWidth > 0)
          .map((e) => `${e.tagName} ${e.className}`),
      );
    await expect.poll(wide, { message: address }).toEqual([]);
  }
});
