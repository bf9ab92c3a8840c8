import { expect, test } from './demo';
import { comeIn, demoStudy, newText, reading, select } from './people';

test('reading and marking without the mouse', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'By the keys', 'P01', 'First words here. Second words there.\n\nThird words again.');
  await reading(page).focus();

  // A sentence is selected and tagged; the next gets the same tags with one key.
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Enter');
  await page.keyboard.type('opening');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'opening' })).toHaveCount(1);
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('.');
  await expect(reading(page).getByRole('button', { name: 'opening' })).toHaveCount(2);

  // The next turn is named with its own words.
  await page.keyboard.press('Shift+PageDown');
  await page.keyboard.press('"');
  await expect(reading(page).getByRole('button', { name: 'Third words again' })).toBeVisible();

  // Undo and redo, three steps back and on.
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(reading(page).getByRole('button')).toHaveCount(0);
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+Shift+z');
  await expect(reading(page).getByRole('button')).toHaveCount(3);

  // Along the marks; star one, remove one.
  await reading(page).focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press(']');
  await page.keyboard.press('s');
  await expect(reading(page).getByLabel('starred')).toHaveCount(1);
  await page.keyboard.press(']');
  await page.keyboard.press('Delete');
  await expect(reading(page).getByRole('button')).toHaveCount(2);
  await page.keyboard.press('?');
  // The help tells the keys of what stands on the page, and finds one by what it does; the palette does the same acts by their names.
  const keys = page.getByRole('dialog', { name: 'Keys of this page' });
  await expect(keys).toContainText('give the last tags again');
  await page.keyboard.type('split the mark');
  await expect(keys).toContainText('split the mark at the caret');
  await expect(keys).not.toContainText('give the last tags again');
  await page.keyboard.press('Escape');
  await expect(keys).toHaveCount(0);
  await page.keyboard.press('[');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('mark as unsure');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByLabel('unsure')).toHaveCount(1);
});

test('emoji, combining accents and right-to-left words are quoted exactly', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Other scripts', 'P01', 'Before \u{1F6A2}\u{1F469}\u{1F3FD}\u200D\u{1F9BD} the cafe\u0301 knew. After.\n\nהיא אמרה שלום ואז הלכה.');
  await select(page, 'café knew');
  await page.keyboard.type('one');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'one' })).toBeVisible();
  await reading(page).focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press('PageDown');
  await page.keyboard.press('Shift+PageDown');
  await page.keyboard.press('Enter');
  await page.keyboard.type('two');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'two' })).toBeVisible();
  await page.getByRole('complementary', { name: 'Tag shelf' }).getByRole('button', { name: 'one', exact: true }).click();
  await expect(page.getByRole('complementary', { name: 'Evidence' }).getByText('café knew', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('complementary', { name: 'Tag shelf' }).getByRole('button', { name: 'two', exact: true }).click();
  await expect(page.getByRole('complementary', { name: 'Evidence' }).getByText('היא אמרה שלום ואז הלכה.', { exact: true })).toBeVisible();
});

test('an observation has a note, a sentiment, a star and a trail, and opens in place from its number', async ({ page }) => {
  await comeIn(page);
  const study = await demoStudy(page);
  await page.goto(`${study}/weigh?view=participants`);
  await page.getByRole('button', { name: /^too late to act, Sorrel: 4 observations/ }).click();
  await page.getByRole('complementary', { name: 'Evidence' }).getByText('At ten to seven').locator('..').getByRole('link', { name: 'open in place' }).click();
  await expect(page).toHaveURL(/\/mark\?source=\d+&at=\d+/);
  await expect(page.getByText('At ten to seven. For the four o', { exact: false })).toBeInViewport();

  // What is copied says who says it and where it stands.
  const copied = await reading(page).evaluate((text) => {
    const clipboardData = new DataTransfer();
    text.dispatchEvent(new ClipboardEvent('copy', { clipboardData, bubbles: true, cancelable: true }));
    return clipboardData.getData('text/plain');
  });
  expect(copied).toMatch(/^“At ten to seven\. For the four o'clock\..*”\n\(Sorrel, P03 Sorrel, 04:52\)$/);

  await page.locator(`#label-${new URL(page.url()).searchParams.get('at')}`).click();
  const card = page.getByRole('dialog', { name: 'Observation' });
  await card.getByLabel('Note').fill('The latest of all.');
  await card.getByRole('radio', { name: 'mixed' }).click();
  await expect(card.getByRole('radio', { name: 'mixed' })).toBeChecked();
  await card.getByRole('button', { name: 'Star', exact: true }).click();
  await expect(card.getByRole('button', { name: 'Starred' })).toBeVisible();
  await card.getByRole('button', { name: 'Trail' }).click();
  await expect(card.getByRole('list', { name: 'Trail' })).toContainText('starred an observation');
  await expect(card.getByRole('list', { name: 'Trail' })).toContainText('marked “At ten to seven');
  await card.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undid: Removed an observation/)).toBeVisible();
});

test('a tag name that is refused is not lost, and neither is the selection', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Long names', 'P01', 'Some words to mark with care.');
  await select(page, 'words to mark');
  const name = 'much too long '.repeat(22).trim();
  await page.getByRole('combobox', { name: 'Tags for this stretch' }).fill(name);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/307 characters; 80 is the most/)).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'Tags for this stretch' })).toHaveValue(name);
  await page.getByRole('combobox', { name: 'Tags for this stretch' }).fill('short');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'short' })).toBeVisible();
});

test('an observation is moved at its edges, split and joined, by keys and by the mouse', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Edges', 'P01', 'First words here, and more. Second words there. The third of them all.');
  const marks = async () => {
    const id = new URL(page.url()).searchParams.get('source');
    const found = (await (await page.request.get(`/api/sources/${id}/observations`)).json()) as { anchor: { start: number; end: number }; unsure: boolean }[];
    const { text } = (await (await page.request.get(`/api/sources/${id}`)).json()) as { text: string };
    return found.map((o) => text.slice(o.anchor.start, o.anchor.end) + (o.unsure ? ' (unsure)' : ''));
  };
  await reading(page).focus();
  // A selection grows from the word to the clause and the sentence, and shrinks again.
  await page.keyboard.press('ArrowRight');
  for (const key of ['g', 'g', 'g', 'G', '"']) await page.keyboard.press(key);
  await expect.poll(marks).toEqual(['First words here,']);
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await expect.poll(marks).toEqual(['words here, and more.']);
  await page.keyboard.press('q');
  await expect(reading(page).getByLabel('unsure')).toBeVisible();
  // Split before "and": the caret goes there by words.
  for (const key of [']', 'Escape', ']', 'ArrowRight', 'ArrowRight', 'x']) await page.keyboard.press(key);
  await expect.poll(marks).toEqual(['words here (unsure)', ', and more. (unsure)']);
  await page.keyboard.press('j');
  await expect.poll(marks).toEqual(['words here, and more. (unsure)']);
  await page.keyboard.press('Control+z');
  await expect.poll(marks).toHaveLength(2);
  await page.keyboard.press('J');
  await expect(page.getByText('No other mark with one of its tags overlaps it.')).toBeVisible();

  // By the mouse: the end of the last is dragged over the second sentence.
  const handle = page.locator('[data-edge="end"]');
  const from = (await handle.boundingBox())!;
  const to = await page.evaluate(() => {
    const node = document.querySelector('[data-start]')!.firstChild!;
    const range = document.createRange();
    range.setStart(node, node.textContent!.indexOf(' The third'));
    range.setEnd(node, node.textContent!.indexOf(' The third') + 1);
    const { left, top, height } = range.getBoundingClientRect();
    return { x: left, y: top + height / 2 };
  });
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await expect.poll(marks).toEqual(expect.arrayContaining([expect.stringMatching(/Second words there\.( \(unsure\))?$/)]));
});

test('only some marks are shown, the hidden ones are counted, and a new one stays in sight', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Shown', 'P01', 'First words here. Second words there. The third of them.');
  const mark = async (name: string) => {
    await reading(page).focus();
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Enter');
    await page.keyboard.type(name);
    const sent = page.waitForResponse((r) => r.request().method() === 'POST' && r.url().endsWith('/observations'));
    await page.keyboard.press('Enter');
    await expect(reading(page).getByRole('button', { name })).toBeVisible();
    await sent;
  };
  await mark('early');
  await mark('later');
  const bar = page.getByRole('group', { name: 'What is shown' });
  await page.keyboard.press('f');
  await expect(bar.getByRole('button', { name: 'all tags' })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.getByRole('checkbox', { name: 'later' }).check();
  await page.keyboard.press('Escape');
  await expect(bar).toContainText('1 mark hidden');
  await expect(reading(page).getByRole('button', { name: 'early' })).toHaveCount(0);
  await mark('last');
  await page.reload();
  await expect(bar).toContainText('2 marks hidden');
  await expect(reading(page).getByRole('button', { name: 'later' })).toBeVisible();
  // What is hidden is marked all the same.
  await reading(page).focus();
  await page.keyboard.press(')');
  await expect(page.getByText('Everything after this place is marked.')).toBeVisible();
  await bar.getByRole('button', { name: 'Show all' }).click();
  await expect(reading(page).getByRole('button')).toHaveCount(3);
});

test('words are found in the whole source, as typed or by stem, and the hit is there to be tagged', async ({ page }) => {
  await comeIn(page);
  const turns = Array.from({ length: 120 }, (_, n) => (n % 40 === 20 ? `Turn ${n} was cancelled by them.` : `Turn ${n} says nothing.`));
  await newText(page, 'Found', 'P01', `${turns.join('\n\n')}\n\nThey never cancel it.`);
  await reading(page).focus();
  await page.keyboard.press('/');
  const find = page.getByRole('search', { name: 'Find in this source' });
  await page.keyboard.type('cancelling');
  await expect(find).toContainText('not found');
  await find.getByLabel('by stem').check();
  await expect(find).toContainText('1 of 4');
  await find.getByLabel('Words to find').focus();
  await page.keyboard.press('Shift+Enter');
  await expect(find).toContainText('4 of 4');
  await expect(page.getByText('They never cancel it.')).toBeInViewport();
  await page.keyboard.press('Escape');
  await expect(find).toHaveCount(0);
  await page.keyboard.press('"');
  await expect(reading(page).getByRole('button', { name: 'cancel', exact: true })).toBeVisible();
});

test('the gist of a source is a few of its sentences, and each leads to its place', async ({ page }) => {
  await comeIn(page);
  await page.goto(`${await demoStudy(page)}/mark?source=2`);
  await page.getByRole('button', { name: 'gist' }).press('Enter');
  const gist = page.getByRole('dialog', { name: 'The gist' });
  await expect(gist.getByRole('listitem')).toHaveCount(7);
  const words = await gist.getByRole('link').last().textContent();
  await gist.getByRole('link').last().press('Enter');
  await expect(gist).toHaveCount(0);
  await expect(page.locator('[data-start]').filter({ hasText: words! })).toBeInViewport();
});

test('pens mark with one key, and a selection by the mouse is inked at once when that is wished', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Pens', 'P01', 'First words here. Second words there. The third of them.');
  await reading(page).focus();
  await page.keyboard.press('3');
  await expect(page.getByText('No tag is on pen 3 yet.')).toBeVisible();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Enter');
  await page.keyboard.type('inked');
  await page.keyboard.press('Enter');
  const shelf = page.getByRole('complementary', { name: 'Tag shelf' });
  await shelf.getByRole('button', { name: 'inked', exact: true }).focus();
  await page.keyboard.press('3');
  await expect(shelf.getByRole('region', { name: 'Pens' }).getByRole('listitem')).toContainText('inked');
  // The mouse was left on a tag: who goes on by keys marks with the pen all the same.
  await shelf.getByRole('button', { name: 'inked', exact: true }).hover();
  await reading(page).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('3');
  await expect(reading(page).getByRole('button', { name: 'inked' })).toHaveCount(2);
  await shelf.getByLabel('A selection').selectOption('marks with the last pen');
  await page.evaluate(() => {
    const node = document.querySelector('[data-start]')!.firstChild!;
    const at = node.textContent!.indexOf('third');
    window.getSelection()!.setBaseAndExtent(node, at, node, at + 5);
  });
  await page.getByText('First words here.').dispatchEvent('mouseup');
  await expect(reading(page).getByRole('button', { name: 'inked' })).toHaveCount(3);
  await shelf.getByRole('button', { name: 'Remove “inked” from pen 3' }).click();
  await expect(shelf.getByRole('region', { name: 'Pens' }).getByRole('listitem')).toHaveCount(0);
});
