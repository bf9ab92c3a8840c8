import { expect, test } from './demo';
import { comeIn, demoStudy } from './people';

test('a frame by the mouse chooses, empty room takes it as a theme, and its pieces are moved on by keys', async ({ page }) => {
  await comeIn(page);
  const study = await demoStudy(page);
  await page.goto(`${study}/sort`);
  const shelf = page.getByRole('complementary', { name: 'Unsorted' });
  const themes = page.locator('[data-theme]');
  await expect(shelf.getByRole('checkbox').first()).toBeVisible();
  const before = await themes.count();
  const slip = async (nth: number) => (await shelf.locator('[data-lasso]').nth(nth).boundingBox())!;
  const [first, second] = [await slip(0), await slip(1)];
  // From the margin over the first two; a click there chooses nothing.
  await page.mouse.click(first.x - 8, first.y + 6);
  await page.mouse.move(first.x - 8, first.y + 6);
  await page.mouse.down();
  await page.mouse.move(first.x + 40, second.y + 8, { steps: 6 });
  await expect(page.getByText('2 observations chosen')).toBeVisible();
  await page.mouse.up();

  // A click on a slip chooses it too, or no more; with Shift all since the last one.
  await page.mouse.click(second.x + 120, second.y + 14);
  await expect(page.getByText('1 observation chosen')).toBeVisible();
  await page.mouse.click(second.x + 120, second.y + 14);
  await expect(page.getByText('2 observations chosen')).toBeVisible();

  // Dragged onto the room beside the cards.
  await page.mouse.move(first.x + 120, first.y + 14);
  await page.mouse.down();
  await page.mouse.move(first.x + 160, first.y + 30, { steps: 4 });
  const ground = (await themes.first().boundingBox())!;
  await page.mouse.move(ground.x - 9, ground.y + 60, { steps: 8 });
  await expect(page.getByText('Drop here, or on any empty room')).toHaveClass(/bg-wash/);
  await page.mouse.up();
  await expect(themes).toHaveCount(before + 1);
  await expect(page.getByRole('textbox', { name: 'Claim' })).toBeFocused();
  await page.keyboard.type('They ring somebody');
  await page.keyboard.press('Enter');
  const made = page.getByRole('region', { name: 'They ring somebody' });
  await expect(made).toBeFocused();

  // A piece that is dropped where it lies is no step.
  const steps = async () => ((await (await page.request.get('/api/steps')).json()) as { label: string }[])[0]!.label;
  const last = await steps();
  const laid = (await made.locator('[data-piece]').first().boundingBox())!;
  await page.mouse.move(laid.x + 90, laid.y + 12);
  await page.mouse.down();
  await page.mouse.move(laid.x + 110, laid.y + 20, { steps: 4 });
  await expect(page.getByText('Drop here, or on any empty room')).toBeVisible();
  await page.mouse.up();
  await expect(page.getByText('Drop here, or on any empty room')).toHaveCount(0);
  expect(await steps()).toBe(last);

  // One of its pieces is moved into another theme by keys, and one step takes it back.
  const pieces = made.locator('[data-piece]');
  await expect(pieces).toHaveCount(2);
  await pieces.first().focus();
  await page.keyboard.press(' ');
  await expect(page.getByText('1 observation chosen')).toBeVisible();
  await page.keyboard.press('T');
  await page.keyboard.type('seat covers');
  await page.keyboard.press('Enter');
  await expect(pieces).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(pieces).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(made).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(themes).toHaveCount(before);
});

test('two people at one table: each sees what the other has in hand, and what has come since the last look', async ({ page, browser }) => {
  await comeIn(page);
  const study = await demoStudy(page);
  await page.goto(`${study}/sort`);
  const shelf = page.getByRole('complementary', { name: 'Unsorted' });
  await expect(shelf.getByRole('checkbox').first()).toBeVisible();
  // The first look is noted by itself; of a later one, what is new is seen first.
  await page.keyboard.press('v');
  await expect(page.getByText(/\d new/)).toHaveCount(0);
  const other = await browser.newPage();
  await comeIn(other, 'Tom Varley');
  await other.goto(`${study}/sort`);
  await other.getByRole('complementary', { name: 'Unsorted' }).getByRole('checkbox').first().check();
  await expect(shelf.getByRole('listitem').first()).toContainText('Tom Varley has it in hand');
  const seats = page.getByRole('region', { name: /^Seat covers/ });
  await other.keyboard.press('t');
  await other.keyboard.type('seat covers');
  await other.keyboard.press('Enter');
  await expect(seats).toContainText('1 new');
  await expect(shelf.getByText('has it in hand')).toHaveCount(0);
  await page.keyboard.press('v');
  await expect(seats).not.toContainText('1 new');
  await other.keyboard.press('Control+z');
  await other.close();
});
