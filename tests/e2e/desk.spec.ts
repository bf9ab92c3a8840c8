import { expect, test } from './demo';
import { comeIn, newText, reading, select } from './people';

test('notes are written in the margin by keys, listed, and put under one tag in one step', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Noted', 'P01', 'She waited there. Nobody came.\n\nThe lamp was out.');
  await reading(page).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('m');
  await page.keyboard.type('Which lamp? <b>Ask.</b>');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'Margin note: Which lamp? <b>Ask.</b>' })).toBeVisible();
  // What was begun and left is there again.
  await page.keyboard.press('PageDown');
  await page.keyboard.press('m');
  await page.keyboard.type('Out again');
  await page.keyboard.press('Escape');
  await page.keyboard.press('m');
  await expect(page.getByRole('textbox', { name: 'Margin note' })).toHaveValue('Out again');
  await page.getByLabel('unsure').check();
  await page.getByRole('textbox', { name: 'Margin note' }).press('Enter');
  await reading(page).focus();
  await page.keyboard.press('N');
  await expect(page.getByRole('dialog', { name: 'Margin note' })).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('link', { name: '2 notes' }).click();
  const list = page.getByRole('region', { name: 'Notes' });
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await page.getByRole('button', { name: 'all notes' }).click();
  await page.getByLabel('Only all that is unsure').check();
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await page.getByLabel('Only all that is unsure').uncheck();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Choose all 2 margin notes' }).click();
  await page.keyboard.press('t');
  await page.keyboard.type('seen outside');
  await page.keyboard.press('Enter');
  await expect(list.getByText('seen outside')).toHaveCount(2);
  await expect(page.getByRole('group', { name: 'Chosen notes' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(list.getByRole('checkbox')).toHaveCount(2);
});

test('tags are dragged onto words, words onto tags, and a mark onto a theme', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Dragged', 'P01', 'First words here. Second words there.\n\nThird words again, and some more of them.');
  const shelf = page.getByRole('complementary', { name: 'Tag shelf' });
  await shelf.getByRole('button', { name: 'New tag' }).click();
  await page.keyboard.type('moved / about = said while moving');
  await page.keyboard.press('Enter');
  await expect(shelf.getByRole('region', { name: 'moved' }).getByRole('button', { name: 'about', exact: true })).toBeVisible();
  const tag = shelf.getByRole('button', { name: 'about', exact: true });
  // The keys' way to another place, and back.
  await tag.focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(shelf.getByRole('region', { name: 'moved' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(shelf.getByRole('region', { name: 'moved' }).getByRole('button', { name: 'about', exact: true })).toBeVisible();
  await expect(tag).toBeInViewport();
  const drag = async (from: { x: number; y: number }, to: { x: number; y: number }) => {
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move(from.x + 12, from.y + 12, { steps: 3 });
    await page.mouse.move(to.x, to.y, { steps: 6 });
    // As long as a hand rests before it lets go.
    await page.waitForTimeout(150);
    await page.mouse.up();
  };
  const middle = async (of: typeof tag) => {
    const box = (await of.boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const words = page.locator('[data-start]');
  const first = (await words.first().boundingBox())!;
  await drag(await middle(tag), { x: first.x + 30, y: first.y + 14 });
  await expect(reading(page).getByRole('button', { name: 'about' })).toHaveCount(1);

  const second = (await words.nth(1).boundingBox())!;
  await page.mouse.dblclick(second.x + 70, second.y + 14);
  await page.keyboard.press('Escape');
  await drag({ x: second.x + 70, y: second.y + 14 }, await middle(tag));
  await expect(reading(page).getByRole('button', { name: 'about' })).toHaveCount(2);

  const label = reading(page).getByRole('button', { name: 'about' }).first();
  await label.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Observation' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('t');
  await expect(page.getByText('There is no theme and no insight in this study yet.')).toBeVisible();
});

test('what two people do to the same thing at once ends in a clear state', async ({ page, browser }) => {
  await comeIn(page, 'Ida Moss');
  await newText(page, 'Both', 'P01', 'One two three four five. Six seven eight nine ten.\n\nEleven twelve.');
  await select(page, 'two three');
  await page.keyboard.type('shared edge');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'shared edge' })).toBeVisible();
  const unas = await browser.newContext();
  const una = await unas.newPage();
  await comeIn(una, 'Una Kerr');
  await una.goto(page.url());
  await expect(reading(una).getByRole('button', { name: 'shared edge' })).toBeVisible();
  const at = async (who: typeof page) => {
    const source = Number(new URL(who.url()).searchParams.get('source'));
    const [mark] = await (await who.request.get(`/api/sources/${source}/observations`)).json();
    return mark.anchor as { start: number; end: number };
  };

  // The same edge: who comes second is told, and sees where it stands.
  await unas.setOffline(true);
  await reading(una).focus();
  await una.keyboard.press(']');
  await una.keyboard.press('Alt+ArrowRight');
  await reading(page).focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press(']');
  await page.keyboard.press('Alt+Shift+ArrowLeft');
  await expect.poll(async () => (await at(page)).start).toBe(0);
  await unas.setOffline(false);
  await expect(una.getByText(/was moved in the meantime/)).toBeVisible();
  expect(await at(page)).toEqual({ kind: 'text', start: 0, end: 13 });

  // Words that are selected while somebody corrects the text before them are marked where they are.
  await select(una, 'Eleven twelve');
  await reading(page).focus();
  await page.keyboard.press('PageUp');
  await page.keyboard.press('c');
  await page.keyboard.press('Control+Home');
  await page.keyboard.type('Well now. ');
  await page.keyboard.press('Control+Enter');
  await expect(reading(una)).toContainText('Well now.');
  await una.keyboard.type('still theirs');
  await una.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'still theirs' })).toBeVisible();
  await page.getByRole('complementary', { name: 'Tag shelf' }).getByRole('button', { name: 'still theirs' }).click();
  await expect(page.getByRole('complementary', { name: 'Evidence' }).getByText('Eleven twelve', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');

  // A tag that goes while the other gives it: it is said, and what was selected and typed is there again.
  await unas.setOffline(true);
  await select(una, 'Six seven');
  await una.keyboard.type('still the');
  await una.keyboard.press('Enter');
  await expect(reading(una).getByRole('button', { name: 'still theirs' })).toHaveCount(2);
  await reading(page).focus();
  const shelf = page.getByRole('complementary', { name: 'Tag shelf' });
  await shelf.getByRole('button', { name: 'still theirs' }).click();
  await page.getByRole('link', { name: 'Everything about this tag' }).click();
  await page.getByRole('button', { name: 'Retire' }).click();
  await page.getByRole('button', { name: 'Delete everywhere' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await unas.setOffline(false);
  await expect(una.getByText(/^Mark “Six seven”: /)).toBeVisible();
  await expect(reading(una).getByRole('button', { name: 'still theirs' })).toHaveCount(0);
  await expect(una.getByTestId('tag-line')).toBeVisible();
  await unas.close();
});

test('words selected by touch, as far as the browser takes them, are tagged', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Touched', 'P01', 'She waited there. Nobody came.');
  const words = reading(page).locator('[data-start]').first();
  /** What a finger on the handles of the browser's selection does. */
  const take = (to: number) =>
    words.evaluate((block, end) => {
      const text = document.createTreeWalker(block, NodeFilter.SHOW_TEXT).nextNode()!;
      window.getSelection()!.setBaseAndExtent(text, 0, text, end);
    }, to);
  await words.dispatchEvent('pointerdown', { pointerType: 'touch', button: 0 });
  await take(3);
  await take(10);
  const bar = page.getByRole('toolbar', { name: 'Selected words' });
  await bar.getByRole('button', { name: 'Tag' }).click();
  await page.keyboard.type('waiting');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'waiting', exact: true })).toBeVisible();
  await expect.poll(() => page.evaluate(() => [...(CSS.highlights.get('vitrine-focus-first') ?? [])].map(String).join())).toBe('She waited');
});
