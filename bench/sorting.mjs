// How the sorting table stands up to 2,000 observations and 300 tags, and the walk through suggestions to a key: bench/run sorting
// A server of its own on a folder of its own; headless Chromium; keys from their own time stamp to after the next frame. Prints a table; ratios are to the same on an empty page.
import { at, ownServer, wait } from './ownServer.mjs';

const tiny = process.argv.includes('--tiny');
const [sourceCount, perSource, tagCount, moved, runs, presses] = tiny ? [2, 12, 6, 4, 1, 2] : [20, 100, 300, 200, 5, 20];
const { base, page, read, write, painted, end } = await ownServer(10);

/** The longest time between two frames while something is done. */
async function longestFrame(act) {
  await page.evaluate(() => {
    window.longest = 0;
    let last = performance.now();
    const look = (now) => {
      window.longest = Math.max(window.longest, now - last);
      last = now;
      window.frame = requestAnimationFrame(look);
    };
    window.frame = requestAnimationFrame((now) => {
      last = now;
      look(now);
    });
  });
  await act();
  return page.evaluate(() => (cancelAnimationFrame(window.frame), window.longest));
}

const words = 'quay boat ticket window freight winter ramp seat name phone cold early late neighbour crew gale pram lamp box clinic'.split(' ');
let seed = 7;
const random = (n) => (seed = (seed * 48271) % 2147483647) % n;
const sentence = (i) => `The ${words[random(words.length)]} and the ${words[random(words.length)]} come ${i % 10 === 0 ? 'often ' : ''}as number ${i}.`;

try {
  const study = (await write('studies', { title: 'Sorting', purpose: '', method: '', researchQuestions: [] })).id;
  const all = [];
  for (let s = 0; s < sourceCount; s++) {
    const said = Array.from({ length: perSource }, (_, i) => sentence(s * perSource + i));
    await write(`studies/${study}/participants`, { code: '', pseudonym: `Person ${s}`, realName: null, consent: 'given', values: {} });
    const text = `Interviewer: How?\n\nPerson ${s}: ${said.join(' ')}`;
    const { step } = await write(`studies/${study}/sources/paste`, { title: `Talk ${s}`, kind: 'interview', text, participantIds: [] });
    await write(`sources/${step.id}/reading`, { furthest: 5 }, 'PUT');
    const source = await read(`sources/${step.id}`);
    for (const one of said) {
      const start = source.text.indexOf(one);
      all.push({ sourceId: step.id, start, end: start + one.length, basedOn: source.textHash });
    }
  }
  for (let t = 0; t < tagCount; t++) {
    const passages = all.filter((_, i) => (i * 7919) % tagCount === t);
    await write(`studies/${study}/passages/tags`, { passages, tagIds: [], newTags: [`tag ${t}`], reviewed: true, search: null });
  }
  const tags = await read(`studies/${study}/tags`);
  for (let t = 0; t < 8; t++)
    await write(`studies/${study}/themes`, { title: `Claim ${t} about the ${words[t]} and the ${words[t + 8]}`, description: 'What it means.', parentId: null, observationIds: [], tagIds: [] });

  await page.goto(`${base}/sign-in`);
  await wait(1000);
  const bare = at(0.5, await painted('ArrowDown', presses, 120));
  console.log(`The sorting table: ${all.length} observations, ${tags.length} tags, 8 themes; an empty page paints after ${bare.toFixed(0)} ms\n`);
  console.log('| | median | longest | times the empty page | aim |\n|---|---|---|---|---|');
  const row = (name, times, aim) =>
    console.log(`| ${name} | ${at(0.5, times).toFixed(0)} ms | ${Math.max(...times).toFixed(0)} ms | ${(at(0.5, times) / bare).toFixed(1)} | ${aim} |`);

  const slips = page.getByRole('complementary', { name: 'Unsorted' }).getByRole('checkbox');
  const open = [];
  for (let i = 0; i <= runs; i++) {
    await page.goto(`${base}/studies/${study}/gather`);
    await page.getByText('Talk 1').first().waitFor();
    await page.waitForLoadState('networkidle');
    const begun = Date.now();
    await page.getByRole('navigation', { name: 'Stages of the study' }).getByRole('link', { name: 'Sort' }).click();
    await slips.first().waitFor();
    if (i > 0) open.push(Date.now() - begun);
  }
  row('open', open, 'under 500 ms');

  const list = page.getByRole('region', { name: 'Unsorted observations' });
  await list.hover();
  row('longest frame while scrolling', [await longestFrame(async () => {
    for (let i = 0; i < (tiny ? 3 : 60); i++) {
      await page.mouse.wheel(0, 400);
      await wait(30);
    }
  })], 'under 50 ms');
  await list.evaluate((el) => el.scrollTo(0, 0));
  await slips.first().waitFor();
  const box = await slips.first().boundingBox();
  row('longest frame while dragging', [await longestFrame(async () => {
    await page.mouse.move(box.x + 80, box.y + 20);
    await page.mouse.down();
    for (let i = 0; i < (tiny ? 3 : 60); i++) {
      await page.mouse.move(box.x + 80 + i * 12, box.y + 40 + (i % 12) * 30);
      await wait(16);
    }
    await page.keyboard.press('Escape');
    await page.mouse.up();
  })], 'under 50 ms');
  row('a slip is chosen by Space', await (async () => (await slips.first().focus(), painted(' ', presses, 250)))(), 'under 50 ms');

  // As many as are to be moved are chosen in one frame, and put in a theme by keys.
  const ids = await read(`studies/${study}/unsorted/ids`);
  const over = [];
  const quick = [];
  for (let i = 0; i < runs; i++) {
    await page.reload();
    await slips.first().waitFor();
    const find = page.getByRole('textbox', { name: 'Find among these' });
    const typed = moved === 200 ? 'often' : '';
    await find.fill(typed);
    await page.waitForLoadState('networkidle');
    await wait(600);
    await page.getByRole('region', { name: 'Unsorted observations' }).focus();
    await page.keyboard.press('Control+a');
    await page.getByText(/chosen$/).first().waitFor();
    await page.keyboard.press('t');
    await page.keyboard.type(`claim ${i}`);
    await wait(200);
    const answered = page.waitForResponse((r) => r.url().endsWith('/put'));
    const begun = Date.now();
    quick.push(...(await painted('Enter', 1, 0)));
    await answered;
    over.push(Date.now() - begun);
    await wait(400);
    quick.push(...(await page.evaluate(() => window.times)));
    await page.keyboard.press('Control+z');
    await wait(800);
  }
  row(`${Math.round(all.length / 10)} moved in one step, painted`, quick, 'under 50 ms');
  row('the same, answered', over, 'under 300 ms');

  const { id } = await write(`studies/${study}/suggestions`, { kind: 'themes', tagIds: tags.map((t) => t.id), observationIds: [], themeIds: [], themeId: null, groups: null, holdMixed: false });
  await page.goto(`${base}/studies/${study}/sort/suggestions/${id}`);
  await page.getByRole('button', { name: /^Yes/ }).first().waitFor();
  await page.waitForLoadState('networkidle');
  row('a key of the walk through suggestions of tags', await painted('n', presses, 600), 'under 50 ms');
  const placing = await write(`studies/${study}/suggestions`, { kind: 'placing', tagIds: [], observationIds: ids.slice(0, 2000), themeIds: [], themeId: null, groups: null, holdMixed: false });
  const shown = [];
  for (let i = 0; i < runs; i++) {
    const begun = Date.now();
    await read(`suggestions/${placing.id}`);
    shown.push(Date.now() - begun);
  }
  row('where 2,000 observations belong, shown', shown, 'under 1 s');
  await page.goto(`${base}/studies/${study}/sort/suggestions/${placing.id}`);
  await page.getByRole('button', { name: /^Yes/ }).first().waitFor();
  await page.waitForLoadState('networkidle');
  row('a key of the walk through 2,000 observations', await painted('l', presses, 1200), 'under 50 ms');
} finally {
  await end();
}
