// How the reading view stands up to a long transcript: bench/run reading
// A server of its own on a folder of its own; headless Chromium; medians of several runs. Prints a table.
import { spawn } from 'node:child_process';
import { createRequire } from 'node:module';
import { mkdtempSync, rmSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';

const here = new URL('..', import.meta.url).pathname;
const { chromium } = createRequire(new URL('../web/package.json', import.meta.url))('@playwright/test');
const tiny = process.argv.includes('--tiny');
const [port, turns, wordsInTurn, observations, tagCount, runs, marks] = tiny ? [5195, 60, 50, 60, 30, 1, 1] : [5195, 600, 50, 2000, 1000, 5, 12];
const base = `http://127.0.0.1:${port}`;
const data = mkdtempSync(join(tmpdir(), 'vitrine-bench-'));
const server = spawn('dotnet', [`${here}src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll`, 'serve', '--data', data, '--port', port, '--web', `${here}web/dist`, '--password-iterations', '1'], { stdio: 'ignore' });
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
const page = await context.newPage();

const median = (all) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)];
let random = 42;
const next = (n) => (random = (random * 1103515245 + 12345) % 2147483648) % n;
const vocabulary = 'the ferry boat quay ticket morning people nobody tells you until it is cold rain box pram neighbour counter machine asks return sailing late notice captain board mainland school'.split(' ');
const sentence = (n) => Array.from({ length: n }, () => vocabulary[next(vocabulary.length)]).join(' ');

let token;
async function write(method, path, body) {
  token ??= (await (await page.request.get(`${base}/api/me`)).json()).pageToken;
  const answer = await page.request[method](`${base}/api/${path}`, { data: body, headers: { 'X-Vitrine-Token': token } });
  if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
  return answer.json();
}

const longest = 5 * 60_000;
setTimeout(() => {
  console.error('This takes too long; something hangs.');
  server.kill('SIGTERM');
  process.exit(1);
}, longest).unref();

try {
  for (let i = 0; ; i++) {
    if (await page.request.get(`${base}/healthz`).then((a) => a.ok(), () => false)) break;
    if (i > 200) throw new Error('The server did not start.');
    await new Promise((done) => setTimeout(done, 50));
  }
  await write('post', 'set-up', { name: 'Una', email: 'una@vitrine.example', password: 'ten letters and more', role: 'steward' });
  token = undefined;
  const study = (await write('post', 'studies', { title: 'Long', purpose: '', method: '', researchQuestions: [] })).id;
  const text = Array.from({ length: turns }, (_, i) => `${i % 2 ? 'Wren' : 'Una'}: ${i === 0 ? 'Beginning of the talk. ' : ''}${sentence(wordsInTurn)}.`).join('\n\n');
  await write('post', `studies/${study}/participants`, { code: 'P1', pseudonym: 'Wren', realName: null });
  const paste = async (title, more) => (await write('post', `studies/${study}/sources/paste`, { title, kind: 'interview', heldOn: null, text: text + more, participantIds: [] })).step.id;
  const [marked, bare] = [await paste('Marked', ''), await paste('Bare', '\n\nUna: The end.')];
  const tags = [];
  for (let i = 0; i < tagCount; i++) tags.push((await write('post', 'tags', { name: `${vocabulary[i % vocabulary.length]} ${vocabulary[(i * 7 + 3) % vocabulary.length]} ${i}`, parentId: null, colour: i % 12, definition: '', settled: false })).id);
  for (let i = 0; i < observations; i++) {
    const start = Math.floor((i * (text.length - 200)) / observations) + next(60);
    await write('post', `sources/${marked}/observations`, { anchor: { kind: 'text', start, end: start + 40 + next(100) }, tagIds: [tags[next(tagCount)]], newTags: [] });
  }

  const region = page.getByRole('region', { name: /^Text of/ });
  /** Milliseconds from navigation to the words painted, and to the first selected words painted. */
  async function opened(source) {
    await page.goto('about:blank');
    await page.goto(`${base}/studies/${study}/mark?source=${source}`, { waitUntil: 'commit' });
    const readable = await page.evaluate(
      () =>
        new Promise((done) => {
          const look = () => (document.querySelector('[data-start]') ? requestAnimationFrame(() => done(performance.now())) : requestAnimationFrame(look));
          look();
        }),
    );
    await region.focus();
    await page.keyboard.press('Shift+ArrowRight');
    const markable = await page.evaluate(
      () =>
        new Promise((done) => {
          const look = () => (CSS.highlights.has('vitrine-selection-first') ? requestAnimationFrame(() => done(performance.now())) : requestAnimationFrame(look));
          look();
        }),
    );
    return { readable, markable };
  }
  /** The longest frame while the whole text is scrolled through at some 6,000 pixels a second. */
  const longestFrame = () =>
    page.evaluate(
      () =>
        new Promise((done) => {
          const scroller = document.querySelector('[data-testid="reading-scroll"]');
          let [longest, last, frames] = [0, performance.now(), 0];
          const step = () => {
            const now = performance.now();
            longest = Math.max(longest, now - last);
            last = now;
            scroller.scrollTop += 100;
            if (++frames < 300) requestAnimationFrame(step);
            else done(longest);
          };
          scroller.scrollTop = 0;
          requestAnimationFrame(() => {
            last = performance.now();
            requestAnimationFrame(step);
          });
        }),
    );
  const measured = {};
  for (const [name, source] of [['marked', marked], ['bare', bare]]) {
    const [opens, frames] = [[], []];
    for (let i = 0; i < runs; i++) {
      opens.push(await opened(source));
      await page.waitForTimeout(400);
      frames.push(await longestFrame());
    }
    measured[name] = { readable: median(opens.map((o) => o.readable)), markable: median(opens.map((o) => o.markable)), frame: median(frames) };
  }

  // Enter in the tag line to the mark painted; keystrokes with all the tags.
  await opened(marked);
  const [enters, strokes] = [[], []];
  await page.evaluate(() => {
    window.watch = (kind, name) =>
      new Promise((done) => {
        document.addEventListener(
          'keydown',
          () => {
            const begun = performance.now();
            const frame = () => requestAnimationFrame(() => setTimeout(() => done(performance.now() - begun)));
            if (kind === 'key') return frame();
            const root = document.querySelector('[role="region"][aria-label^="Text of"]');
            const look = () => (root.querySelector(`button[title="${name}"]`) ? frame() : queueMicrotask(() => setTimeout(look)));
            look();
          },
          { capture: true, once: true },
        );
      });
  });
  for (let i = 0; i < marks; i++) {
    await region.focus();
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Enter');
    await page.getByTestId('tag-line').waitFor();
    for (const letter of `quite new ${i}`) {
      const stroke = page.evaluate(() => window.watch('key'));
      await page.waitForTimeout(30);
      await page.keyboard.press(letter === ' ' ? 'Space' : letter);
      strokes.push(await stroke);
    }
    const enter = page.evaluate((name) => window.watch('enter', name), `quite new ${i}`);
    await page.waitForTimeout(30);
    await page.keyboard.press('Shift+Enter');
    enters.push(await enter);
    await page.waitForTimeout(500);
  }
  const ms = (n) => `${n.toFixed(n < 100 ? 1 : 0)} ms`;
  const { marked: m, bare: b } = measured;
  const sorted = [...strokes].sort((x, y) => x - y);
  console.log(`Reading view, headless Chromium ${browser.version()} on ${cpus().length} x ${cpus()[0].model}; ${turns * wordsInTurn} words in ${turns} turns, medians of ${runs}`);
  console.log(`| | ${observations} observations | none | ratio | aim |`);
  console.log('|---|---|---|---|---|');
  console.log(`| text readable after | ${ms(m.readable)} | ${ms(b.readable)} | ${(m.readable / b.readable).toFixed(2)} | under 1 s, ratio under 1.5 |`);
  console.log(`| a mark can be made after | ${ms(m.markable)} | ${ms(b.markable)} | ${(m.markable / b.markable).toFixed(2)} | |`);
  console.log(`| longest frame while scrolling | ${ms(m.frame)} | ${ms(b.frame)} | ${(m.frame / b.frame).toFixed(2)} | under 50 ms |`);
  console.log(`| Enter to the mark painted, median of ${enters.length} | ${ms(median(enters))} | | | under 50 ms |`);
  console.log(`| keystroke in the tag line with ${tagCount} tags, median and 95th percentile of ${strokes.length} | ${ms(median(strokes))}, ${ms(sorted[Math.floor(sorted.length * 0.95)])} | | | under 16 ms |`);
} finally {
  await browser.close();
  server.kill('SIGTERM');
  rmSync(data, { recursive: true, force: true });
}
