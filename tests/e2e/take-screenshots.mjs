// Takes the pictures of docs/screenshots anew, from a running demo: node tests/e2e/take-screenshots.mjs [http://127.0.0.1:5177]
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const { chromium } = createRequire(new URL('../../web/package.json', import.meta.url))('@playwright/test');
const base = process.argv[2] ?? 'http://127.0.0.1:5177';
const folder = new URL('../../docs/screenshots/', import.meta.url).pathname;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });

async function write(path, data) {
  const { pageToken } = await (await page.request.get(`${base}/api/me`)).json();
  return (await page.request.post(base + path, { data, headers: { 'X-Vitrine-Token': pageToken } })).json();
}
const { demoAccounts } = await (await page.request.get(`${base}/api/me`)).json();
const comeIn = (name) => write('/api/demo/sign-in', { accountId: demoAccounts.find((a) => a.name === name).id });
await comeIn('Ida Moss');
page.on('console', (message) => message.type() === 'error' && console.error(message.text()));

async function take(name, address, words, before) {
  await page.goto(base + address);
  await page.getByText(words).first().waitFor();
  await before?.();
  await page.evaluate(() => document.fonts.ready);
  await page.waitForLoadState('networkidle');
  await page.screenshot({ animations: 'disabled', path: `${folder}${name}.png` });
}

await take('study-front', '/studies/1', 'Research questions');
await take('participants', '/studies/1/gather/people', 'recruited on');
const { text } = await (await page.request.get(`${base}/api/sources/2`)).json();
await take('mark', `/studies/1/mark?source=2&place=${text.indexOf('Then you ring round')}`, 'Then you ring round', async () => {
  const turn = page.locator('[data-start]').filter({ hasText: 'Then you ring round' });
  await turn.evaluate((e) => e.scrollIntoView({ block: 'center' }));
  await page.evaluate(() => document.fonts.ready);
  const ends = await turn.evaluate((element) => {
    const words = "It's always the box.";
    const at = element.firstChild.textContent.indexOf(words);
    const range = document.createRange();
    range.setStart(element.firstChild, at);
    range.setEnd(element.firstChild, at + words.length);
    const { left, right, top, height } = range.getBoundingClientRect();
    return { left: left + 0.5, right: right - 0.5, y: top + height / 2 };
  });
  await page.mouse.move(ends.left, ends.y);
  await page.mouse.down();
  await page.mouse.move(ends.right, ends.y, { steps: 8 });
  await page.mouse.up();
  await page.keyboard.type('fre');
});
const tags = await (await page.request.get(`${base}/api/studies/1/tags`)).json();
const { sources } = await (await page.request.get(`${base}/api/studies/1/sources?page=0`)).json();
const sourceOf = (title) => sources.find((s) => s.title === title).id;
await take('player', `/studies/1/mark?source=${sourceOf('P08 kiosk, film')}`, 'In step', async () => {
  const desk = page.getByRole('region', { name: /^Recording / });
  await desk.focus();
  for (const key of [']', ']', ']', 'W']) await page.keyboard.press(key);
  await page.waitForTimeout(800);
  await page.keyboard.press('-');
  await page.waitForTimeout(800);
});
await take('picture', `/studies/1/mark?source=${sourceOf('Signs on the quay')}`, 'screen says otherwise', async () => {
  await page.getByRole('region', { name: /^Picture / }).focus();
  for (const key of [']', ']']) await page.keyboard.press(key);
});
await take('sort', '/studies/1/sort', 'A ticket with a name on it', async () => {
  for (const i of [0, 2]) await page.getByRole('complementary', { name: 'Unsorted' }).getByRole('checkbox').nth(i).check();
});
await take('theme', '/studies/1/sort/themes/3', 'Where it is thin');
await take('suggestions', '/studies/1/sort/suggestions/1', 'Said here more');
await take('weigh', '/studies/1/weigh?view=participants', 'told by neighbours', async () => {
  await page.getByRole('button', { name: /^too late to act, Sorrel/ }).click();
  await page.getByText('At ten to seven').waitFor();
  await page.mouse.move(400, 780);
});
await take('tag-set', '/studies/1/sort/tags', 'learnt on the quay', () => page.getByRole('treeitem', { name: 'too late to act' }).click());
await take('split', `/studies/1/sort/split/${tags.find((t) => t.name === 'too late to act').id}`, 'someone waiting', () => page.getByRole('article').waitFor());
await take('insight', '/studies/1/show/4', 'What it rests on');
await take('find', '/studies/1/mark/find?typed=cancel%20%7C%20%22called%20it%22', 'passages', async () => {
  await page.getByRole('button', { name: /^Choose all/ }).click();
  await page.getByRole('group', { name: 'Chosen passages' }).getByRole('button', { name: /^Tag/ }).click();
  await page.getByRole('combobox').fill('called off');
});
await take('find-more', `/studies/1/mark/more/${tags.find((t) => t.name === 'told by neighbours').id}`, 'It begins with');
await take('privacy', '/studies/1/gather/privacy', 'Also look for these words', async () => {
  await page.getByLabel('Also look for these words').fill('Moira, Maud');
  await page.getByRole('button', { name: 'Find names and numbers' }).click();
  await page.getByText('01632 960 417').first().waitFor();
});
await take('intake', '/intake', 'by the watch');
const references = new URL('../references/documents/', import.meta.url).pathname;
await take('gather', '/studies/1/gather', 'Quay notebook', async () => {
  const broken = { name: 'P05 recording.docx', mimeType: 'application/octet-stream', buffer: Buffer.from('no document') };
  await page
    .getByLabel('Files to add')
    .setInputFiles(
      [`${references}quay-report.docx`, `${references}quay-report.pdf`, `${references}../../../demo/winter/winter-survey.csv`]
        .map((path) => ({ name: path.split('/').at(-1), mimeType: '', buffer: readFileSync(path) }))
        .concat([broken]),
    );
  await page.getByText('1 not added').waitFor();
  await page.getByText('Files that came in').waitFor();
});

await take('agreement', '/studies/3/weigh/agreement', 'they differ on', async () => {
  await page.getByRole('list', { name: 'Where they differ' }).getByRole('listitem').last().focus();
  await page.keyboard.press('3');
  await page.getByText('settled: both').waitFor();
  await page.getByRole('list', { name: 'Where they differ' }).getByRole('listitem').first().focus();
});

await comeIn('Una Kerr');
const link = await write('/api/exhibits/1/links', {});
await take('exhibit', `/read/${link.token}`, 'What happens to foot passengers', async () => {
  const insight = page.getByRole('article').filter({ hasText: '“Return” stops first-timers' });
  await insight.getByRole('button', { name: 'See it said' }).first().click();
  await page.waitForTimeout(2500);
  await page.locator('video').evaluate((video) => video.pause());
  await insight.evaluate((article) => article.scrollIntoView({ block: 'start' }));
  await page.waitForTimeout(800);
});
await browser.close();
