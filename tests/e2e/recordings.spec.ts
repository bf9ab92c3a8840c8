import { expect, test } from './demo';
import { comeIn, demoStudy, write } from './people';

const desk = (page: import('@playwright/test').Page) => page.getByRole('region', { name: /^Recording / });

/** Opens a recording of the demo when it is ready. */
async function open(page: import('@playwright/test').Page, title: string) {
  const study = await demoStudy(page);
  const { sources }: { sources: { id: number; title: string }[] } = await (await page.request.get(`/api${study}/sources?page=0`)).json();
  const id = sources.find((s) => s.title === title)!.id;
  await page.goto(`${study}/mark?source=${id}`);
  await expect(desk(page)).toBeVisible({ timeout: 30_000 });
  return id;
}
const moment = (page: import('@playwright/test').Page) => page.getByTitle('Go to a time (:)').innerText();

test('a film is marked with hands on the keys, an edge is moved by ear, and a still is kept', async ({ page }) => {
  await comeIn(page, 'Tom Varley');
  const film = await open(page, 'P08 kiosk, film');
  await desk(page).focus();
  await page.keyboard.press(':');
  await page.keyboard.type('0:45');
  await page.keyboard.press('Enter');
  expect(await moment(page)).toContain('0:45.0');
  // Frame by frame, and a taller wave.
  const at = () => page.locator('video').evaluate((v: HTMLVideoElement) => Math.round(v.currentTime * 1000));
  await expect.poll(at).toBe(45_000);
  await page.keyboard.press('k');
  await expect.poll(at).toBeGreaterThan(45_000);
  expect(await at()).toBeLessThan(45_300);
  await page.keyboard.press('K');
  await expect.poll(at).toBe(45_000);
  await page.keyboard.press('v');
  await expect(page.getByText('wave × 2')).toBeVisible();
  await page.keyboard.press('i');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('o');
  // Played on while the tag is typed, and back.
  await expect(page.getByTestId('tag-line')).toBeVisible();
  await page.keyboard.type('sighs');
  await page.keyboard.press('Alt+ArrowLeft');
  await page.keyboard.press('Shift+Enter');
  const clip = page.getByRole('button', { name: 'sighs, 0:45.0 to 0:50.0' });
  await expect(clip).toHaveAttribute('aria-current', 'true');
  await page.keyboard.press('.');
  await expect(page.getByRole('button', { name: 'sighs, 0:45.0 to 0:50.1' })).toBeVisible();
  await page.keyboard.press('b');
  await page.keyboard.press('<');
  await expect(page.getByRole('button', { name: 'sighs, 0:44.0 to 0:50.1' })).toBeVisible();
  await page.keyboard.press('s');
  await page.keyboard.press('e');
  await expect(page.getByRole('dialog', { name: 'Observation' }).getByRole('button', { name: 'Starred' })).toBeVisible();
  await page.keyboard.press('Escape');
  // What is said in a clip is lit, and a clip where words are marked is the same observation.
  const words = page.getByRole('region', { name: 'In step with the words' });
  await expect(words.getByText('Oh. It')).toBeVisible();

  await page.keyboard.press('f');
  const still = page.getByRole('list', { name: 'Stills' }).getByRole('link');
  await expect(still).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('list', { name: 'Stills' })).toHaveCount(0);
  const marks: { anchor: { kind: string; beginMs: number } }[] = await (await page.request.get(`/api/sources/${film}/observations`)).json();
  expect(marks.some((m) => m.anchor.kind === 'time' && m.anchor.beginMs === 44_000)).toBe(true);
});

test('a recording plays in step with its words, and the mouse marks on the wave', async ({ page }) => {
  await comeIn(page);
  await open(page, 'P01 Alder, sound');
  const words = page.getByRole('region', { name: 'In step with the words' });
  await words.getByText('system').click();
  await expect.poll(() => moment(page)).toMatch(/0:3[5-7]/);
  await expect(words.locator('[aria-current="true"]')).toContainText('our system');
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect.poll(() => page.locator('video').evaluate((v: HTMLVideoElement) => v.currentTime)).toBeGreaterThan(36);
  await page.getByRole('button', { name: 'Stop' }).click();

  const wave = (await page.getByTestId('wave').boundingBox())!;
  await page.mouse.move(wave.x + 300, wave.y + 70);
  await page.mouse.down();
  await page.mouse.move(wave.x + 360, wave.y + 70, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.type('drawn here');
  await page.keyboard.press('Shift+Enter');
  await expect(page.getByRole('button', { name: /^drawn here, / })).toBeVisible();
  const handle = page.locator('[data-edge="end"]');
  await expect.poll(async () => (await handle.boundingBox()) !== null).toBe(true);
  const edge = (await handle.boundingBox())!;
  const named = await page.getByRole('button', { name: /^drawn here, / }).getAttribute('aria-label');
  await page.mouse.move(edge.x + edge.width / 2, edge.y + 40);
  await page.mouse.down();
  await page.mouse.move(edge.x + 60, edge.y + 40, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /^drawn here, / })).not.toHaveAttribute('aria-label', named!);
  await page.mouse.wheel(0, -400);
});

test('a part of a picture is framed by the mouse and moved by keys, and a still leads back to its film', async ({ page }) => {
  await comeIn(page);
  const study = await demoStudy(page);
  const { sources }: { sources: { id: number; title: string }[] } = await (await page.request.get(`/api${study}/sources?page=0`)).json();
  const id = sources.find((s) => s.title === 'Signs on the quay')!.id;
  await page.goto(`${study}/mark?source=${id}`);
  const picture = page.getByTestId('picture');
  await expect(picture.locator('img')).toBeVisible();
  await expect.poll(async () => (await picture.boundingBox())!.height).toBeGreaterThan(300);
  const at = (await picture.boundingBox())!;
  await page.mouse.move(at.x + at.width * 0.1, at.y + at.height * 0.8);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width * 0.3, at.y + at.height * 0.9, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.type('wet stones');
  await page.keyboard.press('Shift+Enter');
  const region = page.getByRole('button', { name: 'Region: wet stones' });
  await expect(region).toHaveAttribute('aria-current', 'true');
  const box = async () => {
    type Kept = { id: number; anchor: { kind: string; x: number; y: number; width: number; height: number } };
    const marks: Kept[] = await (await page.request.get(`/api/sources/${id}/observations`)).json();
    const { x, y, width, height } = marks.toSorted((a, b) => a.id - b.id).at(-1)!.anchor;
    return [x, y, width, height].map((n) => Math.round(n / 100));
  };
  await expect.poll(box).toEqual([10, 80, 20, 10]);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(box).toEqual([11, 80, 20, 9]);
  // By its corner, and by its middle.
  const corner = (await page.locator('[data-corner="se"]').boundingBox())!;
  await page.mouse.move(corner.x + 8, corner.y + 8);
  await page.mouse.down();
  await page.mouse.move(corner.x + 8 + at.width * 0.1, corner.y + 8, { steps: 5 });
  await page.mouse.up();
  await expect.poll(box).toEqual([11, 80, 30, 9]);
  await page.keyboard.press('Control+z');
  await expect.poll(box).toEqual([11, 80, 20, 9]);

  await open(page, 'P09 kiosk, film');
  await desk(page).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('f');
  await page.getByRole('list', { name: 'Stills' }).getByRole('link').click();
  await expect(page.getByRole('region', { name: /^Picture P09 kiosk, film at 0:05/ })).toBeVisible();
  await page.getByRole('link', { name: /^the film at/ }).click();
  await expect(desk(page)).toBeVisible();
  await expect.poll(() => moment(page)).toContain('0:05.0');
});

test('a recording is written down by the stand-in, and its doubted words are looked at', async ({ page }) => {
  await comeIn(page);
  await open(page, 'P09 kiosk, film');
  await page.getByRole('button', { name: 'Transcribe …' }).click();
  await expect(page.getByRole('dialog', { name: 'Transcribe' })).toContainText('This is a simulated service');
  await page.keyboard.press('Enter');
  const transcript = page.getByLabel('Transcript in step');
  await expect(transcript).toBeVisible();
  await transcript.selectOption('P09 kiosk, film, simulated transcript');
  const words = page.getByRole('region', { name: 'In step with the words' });
  await expect(words).toContainText('Written by the simulated service');
  await words.getByRole('button', { name: '2 words need a look' }).click();
  await words.getByRole('button', { name: 'It is right' }).click();
  await expect(words.getByRole('button', { name: '1 word needs a look' })).toBeVisible();
});

test('readers see a quote said, covered where the team covers it, and nothing else of the film', async ({ page, browser, baseURL }) => {
  await comeIn(page);
  const film = await open(page, 'P08 kiosk, film');
  await page.getByRole('button', { name: 'Protect people …' }).click();
  await page.getByLabel('Make voices less recognisable').check();
  const picture = (await page.getByTestId('covers').boundingBox())!;
  await page.mouse.move(picture.x + 40, picture.y + 40);
  await page.mouse.down();
  await page.mouse.move(picture.x + 140, picture.y + 90, { steps: 3 });
  await page.mouse.up();
  await expect(page.getByRole('listitem', { name: 'Cover 1' })).toBeVisible();
  await page.getByRole('button', { name: 'Protect', exact: true }).click();
  await expect.poll(async () => (await (await page.request.get(`/api/sources/${film}/protection`)).json()).covers.length).toBe(1);

  const { token } = await write(page, 'post', '/api/exhibits/1/links', {});
  const reader = await (await browser.newContext()).newPage();
  await reader.goto(`${baseURL}/read/${token}`);
  const insight = reader.getByRole('article').filter({ hasText: '“Return” stops first-timers' });
  await insight.getByRole('button', { name: 'See it said' }).first().click();
  await expect.poll(() => reader.locator('video').evaluate((v: HTMLVideoElement) => v.duration)).toBeGreaterThan(1);
  expect(await reader.locator('video').evaluate((v: HTMLVideoElement) => v.duration)).toBeLessThan(10);
  expect((await reader.request.get(`/api/sources/${film}/media`)).status()).toBe(401);
});
