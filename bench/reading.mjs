// How the reading view stands up to a long transcript: bench/run reading
// A server of its own on a folder of its own; headless Chromium; medians of several runs. Prints a table.
import { spawn } from 'node:child_process';
import { createRequire } from 'node:module';
import { mkdtempSync, rmSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './freePort.mjs';

const here = new URL('..', import.meta.url).pathname;
const { chromium } = createRequire(new URL('../web/package.json', import.meta.url))('@playwright/test');
const tiny = process.argv.includes('--tiny');
const [wordsInTurn, tagCount, runs, marks, frames] = tiny ? [50, 30, 1, 1, 10] : [50, 1000, 3, 8, 300];
const port = await freePort();
// Two texts, the second ten times the first; each with marks and without. Over next to nothing, one stands for both.
const sizes = tiny
  ? [{ turns: 30, observations: 15 }]
  : [{ turns: 200, observations: 500 }, { turns: 2000, observations: 5000 }];
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

for (const signal of ['SIGTERM', 'SIGINT'])
  process.on(signal, () => {
    server.kill('SIGTERM');
    process.exit(1);
  });
const longest = 8 * 60_000;
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
  await write('post', `studies/${study}/participants`, { code: 'P1', pseudonym: 'Wren', realName: null });
  const paste = async (title, text) => (await write('post', `studies/${study}/sources/paste`, { title, kind: 'interview', heldOn: null, text, participantIds: [] })).step.id;
  const tags = [];
  for (let i = 0; i < tagCount; i++) tags.push((await write('post', 'tags', { name: `${vocabulary[i % vocabulary.length]} ${vocabulary[(i * 7 + 3) % vocabulary.length]} ${i}`, parentId: null, colour: i % 12, definition: '', settled: false })).id);
  for (const size of sizes) {
    const text = Array.from({ length: size.turns }, (_, i) => `${i % 2 ? 'Wren' : 'Una'}: ${i === 0 ? `Beginning of talk ${size.turns}. ` : ''}${sentence(wordsInTurn)}.`).join('\n\n');
    size.marked = await paste(`Marked ${size.turns}`, text);
    size.bare = await paste(`Bare ${size.turns}`, `${text}\n\nUna: The end.`);
    for (let i = 0; i < size.observations; i++) {
      const start = Math.floor((i * (text.length - 200)) / size.observations) + next(60);
      await write('post', `sources/${size.marked}/observations`, { anchor: { kind: 'text', start, end: start + 40 + next(100) }, tagIds: [tags[next(tagCount)]], newTags: [] });
    }
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
      (most) =>
        new Promise((done) => {
          const scroller = document.querySelector('[data-testid="reading-scroll"]');
          let [longest, last, n] = [0, performance.now(), 0];
          const step = () => {
            const now = performance.now();
            longest = Math.max(longest, now - last);
            last = now;
            scroller.scrollTop += 100;
            if (++n < most) requestAnimationFrame(step);
            else done(longest);
          };
          scroller.scrollTop = 0;
          requestAnimationFrame(() => {
            last = performance.now();
            requestAnimationFrame(step);
          });
        }),
      frames,
    );
  await page.addInitScript(() => {
    /** Milliseconds from a key to what comes of it, painted; of a letter, also to the work done: script, style and layout, without the wait for a frame. */
    window.watch = ({ there, gone, changed, on = 'keydown' }) =>
      new Promise((answer) => {
        const root = document.querySelector('[role="region"][aria-label^="Text of"]');
        const said = changed && root.querySelector(changed).textContent;
        document.addEventListener(
          on,
          () => {
            const begun = performance.now();
            let work = 0;
            document.addEventListener(
              'input',
              () =>
                queueMicrotask(() => {
                  void document.body.offsetHeight;
                  work = performance.now() - begun;
                }),
              { once: true },
            );
            const frame = () => requestAnimationFrame(() => setTimeout(() => answer({ painted: performance.now() - begun, work })));
            const is = () => (there ? root.querySelector(there) : gone ? !root.querySelector(gone) : changed ? root.querySelector(changed).textContent !== said : true);
            const look = () => (is() ? frame() : performance.now() - begun < 20_000 ? setTimeout(look) : answer(null));
            look();
          },
          { capture: true, once: true },
        );
      });
  });
  const timed = async (key, until) => {
    // The page listens before the key is pressed, however slow the machine is.
    await page.evaluate((what) => void (window.answered = window.watch(what)), until);
    await page.keyboard.press(key);
    const found = await page.evaluate(() => window.answered);
    if (!found) throw new Error(`Nothing came of ${key}: ${JSON.stringify(until)}`);
    return found;
  };
  async function measure(size) {
    const found = { opens: { marked: [], bare: [] }, frames: { marked: [], bare: [] }, enters: [], strokes: [], edges: [], shows: [] };
    for (const which of ['marked', 'bare']) {
      for (let i = 0; i < runs; i++) {
        found.opens[which].push((await opened(size[which])).readable);
        await page.waitForTimeout(400);
        found.frames[which].push(await longestFrame());
      }
    }
    await opened(size.marked);
    for (let i = 0; i < marks; i++) {
      await region.focus();
      await page.keyboard.press('Shift+ArrowRight');
      await page.keyboard.press('Shift+ArrowRight');
      await page.keyboard.press('Enter');
      await page.getByTestId('tag-line').waitFor();
      for (const letter of `quite ${size.turns} ${i}`) found.strokes.push(await timed(letter === ' ' ? 'Space' : letter, {}));
      found.enters.push((await timed('Shift+Enter', { there: `button[title="quite ${size.turns} ${i}"]` })).painted);
      await page.waitForTimeout(300);
      // The end of the mark goes on by a word, and it is said where it stands now.
      found.edges.push((await timed('Alt+ArrowRight', { changed: '[role="status"].sr-only' })).painted);
      await page.waitForTimeout(500);
    }
    // What is shown of the marks: only the starred, which are none, and all again. A mark that comes in meanwhile would stay in sight.
    // A box is ticked when the space bar is let go.
    await opened(size.marked);
    await page.waitForTimeout(500);
    for (let i = 0; i < Math.max(2, runs); i++) {
      await page.keyboard.press('Escape');
      await page.getByRole('button', { name: 'all of them' }).click();
      await page.getByLabel('Only starred').focus();
      found.shows.push((await timed('Space', { gone: 'button[data-mark]', on: 'keyup' })).painted);
      await page.waitForTimeout(300);
      found.shows.push((await timed('Space', { there: 'button[data-mark]', on: 'keyup' })).painted);
      await page.waitForTimeout(300);
      await page.keyboard.press('Escape');
    }
    return found;
  }
  const small = await measure(sizes[0]);
  const large = tiny ? small : await measure(sizes[1]);
  const ms = (n) => `${n.toFixed(n < 100 ? 1 : 0)} ms`;
  const row = (name, of, aim) => `| ${name} | ${ms(of(small))} | ${ms(of(large))} | ${(of(large) / of(small)).toFixed(2)} | ${aim} |`;
  const late = (all) => all.sort((x, y) => x - y)[Math.floor(all.length * 0.95)];
  const ratio = (of) => [small, large].map((f) => (median(f[of].marked) / median(f[of].bare)).toFixed(2)).join(', ');
  console.log(`Reading view, headless Chromium ${browser.version()} on ${cpus().length} x ${cpus()[0].model}; ${tagCount} tags, medians of ${runs} or more`);
  console.log(`| | ${sizes[0].turns * wordsInTurn} words, ${sizes[0].observations} observations | ${sizes.at(-1).turns * wordsInTurn} words, ${sizes.at(-1).observations} | times | aim |`);
  console.log('|---|---|---|---|---|');
  console.log(row('text readable after', (f) => median(f.opens.marked), 'under 1 s'));
  console.log(row('longest frame while scrolling', (f) => median(f.frames.marked), 'under 50 ms, 1.3 times'));
  console.log(row('Enter to the mark painted', (f) => median(f.enters), 'under 50 ms, 1.3 times'));
  console.log(row('what is shown, changed', (f) => median(f.shows), 'under 50 ms, 1.3 times'));
  console.log(row('an edge moved by a key', (f) => median(f.edges), 'under 50 ms, 1.3 times'));
  console.log(row(`a letter in the tag line: its work, median of ${small.strokes.length}`, (f) => median(f.strokes.map((s) => s.work)), ''));
  console.log(row('a letter in the tag line: its work, 95th percentile', (f) => late(f.strokes.map((s) => s.work)), 'under 16 ms'));
  console.log(row('a letter in the tag line: painted, 95th percentile', (f) => late(f.strokes.map((s) => s.painted)), ''));
  console.log(`Against the same text without marks: readable ${ratio('opens')} times (aim: 1.5), longest frame ${ratio('frames')} times`);
} finally {
  await browser.close();
  server.kill('SIGTERM');
  rmSync(data, { recursive: true, force: true });
}
