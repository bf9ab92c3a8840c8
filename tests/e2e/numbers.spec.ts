import { expect, test } from './demo';
import { comeIn, demoStudy, drag, write } from './people';

test('a number of the table opens exactly as many passages', async ({ page }) => {
  await comeIn(page);
  await page.goto(`${await demoStudy(page)}/weigh`);
  const cells = page.getByRole('table').getByRole('button', { name: /: \d+ observations? in 1 source/ });
  await expect(cells.first()).toBeVisible();
  const names = await cells.evaluateAll((all) => all.map((b) => b.getAttribute('aria-label')!));
  // That it holds of all, the server's tests know.
  const some = names.filter((_, i) => i % 27 === 0);
  expect(some.length).toBeGreaterThan(2);
  for (const name of some) {
    // By its label as it is written: the names of thousands of cells need not be worked out.
    await page.locator(`button[aria-label=${JSON.stringify(name)}]`).click();
    const drawer = page.getByRole('complementary', { name: 'Evidence' });
    const many = /: (\d+)/.exec(name)![1]!;
    // Of a long list only what is in view is in the page; it says how many there are.
    await expect(drawer.getByRole('listitem').first()).toHaveAttribute('aria-setsize', many);
    if (Number(many) <= 8) await expect(drawer.getByRole('checkbox', { name: /^Choose/ })).toHaveCount(Number(many));
    await expect(drawer.getByRole('link', { name: 'open in place' }).first()).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(drawer).toHaveCount(0);
  }
});

test('an overlap opens the words of both tags, and its address can be shared', async ({ page }) => {
  await comeIn(page);
  await page.goto(`${await demoStudy(page)}/weigh?view=overlaps&overlap=touching`);
  await page.getByRole('button', { name: /^learnt on the quay and told by neighbours: 2 pairs/ }).click();
  const drawer = page.getByRole('complementary', { name: 'Evidence' });
  await expect(drawer.getByRole('heading')).toHaveText('learnt on the quay touching told by neighbours');
  await page.reload();
  await expect(drawer.getByText('the fellow from the café came out').first()).toBeVisible();
});

test('who was not asked leaves the denominator and is a dot', async ({ page }) => {
  await comeIn(page);
  await page.goto(`${await demoStudy(page)}/show/1`);
  // Who is in scope depends on what other tests have begun to read; out of them are those who were not asked.
  const told = page.getByText(/2 of \d+ people say so/);
  const { people }: { people: { id: number; begun: boolean }[] } = await (await page.request.get(`/api${await demoStudy(page)}/participants?page=0`)).json();
  const { notAsked }: { notAsked: number[] } = await (await page.request.get('/api/insights/1')).json();
  const outOf = people.filter((p) => p.begun && !notAsked.includes(p.id)).length;
  await expect(told).toContainText(`2 of ${outOf} people say so`);
  await page.getByRole('group', { name: 'Who was asked' }).getByLabel('P02 Wren').click();
  await expect(told).toContainText(`2 of ${outOf + 1} people say so`);
  await page.keyboard.press('Control+z');
  await expect(told).toContainText(`2 of ${outOf} people say so`);
});

test('many at once go into a theme by drag, as one step', async ({ page }) => {
  await comeIn(page);
  await page.goto(`${await demoStudy(page)}/sort`);
  const theme = page.getByRole('region', { name: 'Seat covers are worn and damp' });
  const count = async () => Number(/(\d+) observations/.exec((await theme.textContent())!)![1]);
  await theme.scrollIntoViewIfNeeded();
  const before = await count();
  const boxes = page.getByRole('complementary', { name: 'Unsorted' }).getByRole('checkbox');
  for (let i = 0; i < 3; i++) await boxes.nth(i).check();
  await expect(page.getByText('3 observations chosen')).toBeVisible();
  await drag(page, page.getByRole('complementary', { name: 'Unsorted' }).getByRole('listitem').first(), theme);
  await expect.poll(count).toBe(before + 3);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect.poll(count).toBe(before);
});

test('at the sorting table hands stay on the keys: a stance, the order of themes, what is left out', async ({ page }) => {
  await comeIn(page);
  await page.goto(`${await demoStudy(page)}/sort`);
  const order = () => page.locator('[data-theme]').evaluateAll((all) => all.map((el) => el.getAttribute('aria-label')));
  const merge = page.getByRole('dialog').getByRole('button', { name: 'Merge', exact: true });
  const ticket = page.getByRole('region', { name: 'A ticket with a name on it breaks how islanders share' });
  await ticket.focus();
  const before = await order();
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(async () => (await order())[0]).toBe('A ticket with a name on it breaks how islanders share');
  await expect(ticket).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect.poll(order).toEqual(before);
  // Merged, its dialog goes with it and does not come back when it is undone.
  await ticket.focus();
  await page.keyboard.press('m');
  // What it does is shown before it can be done.
  await expect(merge).toBeEnabled();
  await merge.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(ticket).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect.poll(order).toEqual(before);
  const piece = ticket.getByRole('group').first();
  await piece.focus();
  await page.keyboard.press('a');
  // A card shows one that contradicts, and there are two already.
  await expect(ticket).toContainText('3 against');
  await page.keyboard.press('Control+z');
  await expect(ticket).toContainText('2 against');
  const shelf = page.getByRole('complementary', { name: 'Unsorted' });
  const leftOut = shelf.getByRole('tab', { name: /^Left out/ });
  await expect(leftOut).toHaveText('Left out, 4');
  await shelf.getByRole('checkbox').nth(0).focus();
  await page.keyboard.press('Space');
  await shelf
    .getByRole('checkbox')
    .nth(2)
    .click({ modifiers: ['Shift'] });
  await expect(page.getByText('3 observations chosen')).toBeVisible();
  await page.keyboard.press('x');
  await expect(leftOut).toHaveText('Left out, 7');
  await page.keyboard.press('Control+z');
  await expect(leftOut).toHaveText('Left out, 4');
  // Enter on a theme opens its page.
  await ticket.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Says otherwise' }).first()).toContainText('sooner have it named');
  // Merged on its page, it leads to the one that stays.
  await page.getByRole('button', { name: 'Merge…' }).press('Enter');
  await page
    .getByRole('dialog')
    .getByRole('radio', { name: /^Seat covers/ })
    .check();
  await expect(merge).toBeEnabled();
  await merge.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Claim' })).toHaveValue('Seat covers are worn and damp');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await page.getByRole('link', { name: 'Sorting table' }).press('Enter');
  await expect.poll(order).toEqual(before);
});

test('the outline is the table as a text: edited in place, folded, printed whole', async ({ page }) => {
  await comeIn(page);
  await page.goto(`${await demoStudy(page)}/sort/outline`);
  const claim = page.getByRole('textbox', { name: 'Claim of Seat covers are worn and damp' });
  await claim.fill('Seat covers bother one passenger');
  await page.getByRole('button', { name: 'Fold People learn of a cancelled sailing' }).press('Enter');
  await expect(page.getByText('Word goes round by shop')).toHaveCount(0);
  await page.getByRole('link', { name: 'Table' }).press('Enter');
  await expect(page.getByRole('link', { name: 'Seat covers bother one passenger' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Neighbours are the real channel' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Unfold People learn of a cancelled sailing' }).press('Enter');
  await page.keyboard.press('Control+z');
  await page.getByRole('link', { name: 'Outline' }).press('Enter');
  await expect(claim).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  const [height, text] = await page.evaluate(() => [document.documentElement.scrollHeight, document.querySelector('ol')!.scrollHeight]);
  expect(height).toBeGreaterThan(text);
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
});

test('two people: each sees the other’s mark, and an undo that would harm it is refused by name', async ({ page, browser }) => {
  await comeIn(page, 'Ida Moss');
  const address = `${await demoStudy(page)}/mark?source=3`;
  await page.goto(address);
  const label = page.getByRole('region', { name: /^Text of/ }).locator('button[id^=label-]');
  await expect(label.first()).toBeVisible();
  const id = /\d+/.exec((await label.first().getAttribute('id'))!)![0];
  await write(page, 'put', `/api/observations/${id}/note`, { text: 'Ida was here', was: '' });

  const toms = await browser.newContext();
  const tom = await toms.newPage();
  await comeIn(tom, 'Tom Varley');
  await write(tom, 'put', `/api/observations/${id}/note`, { text: 'Tom was here since', was: 'Ida was here' });
  await page.reload();
  await expect(label.first()).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/cannot be undone.*Tom Varley changed it/)).toBeVisible();
  await toms.close();
});
