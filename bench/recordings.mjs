// How recordings stand up: bench/run recordings
// A film of two hours comes in and is made ready; its wave is zoomed and scrolled with 500 clips and without; a clip is cut. A server of its
// own on a folder of its own, headless Chromium, ffmpeg for the film and for the bare values. Prints tables.
import { execFileSync, spawn } from 'node:child_process';
import { createRequire } from 'node:module';
import { mkdtempSync, openSync, readSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './freePort.mjs';

const here = new URL('..', import.meta.url).pathname;
const { chromium } = createRequire(new URL('../web/package.json', import.meta.url))('@playwright/test');
const tiny = process.argv.includes('--tiny');
const [seconds, clips, runs, moves] = tiny ? [20, 5, 1, 10] : [7200, 500, 5, 150];
const port = await freePort();
const base = `http://127.0.0.1:${port}`;
const data = mkdtempSync(join(tmpdir(), 'vitrine-bench-'));
const film = join(data, 'film.mp4');
const ffmpeg = (...args) => execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...args], { stdio: 'ignore' });
const timed = (work) => {
  const begun = performance.now();
  work();
  return performance.now() - begun;
};
const median = (all) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)];
const ms = (n) => (n < 10_000 ? `${n.toFixed(n < 100 ? 1 : 0)} ms` : `${(n / 1000).toFixed(1)} s`);

// A minute is encoded, and repeated without being encoded again; noise, so that the film is as large as a film.
const part = join(data, 'part.mp4');
const piece = Math.min(seconds, 60);
ffmpeg('-f', 'lavfi', '-i', `aevalsrc=if(lt(mod(t\\,7)\\,5)\\,0.4*(random(0)*2-1)\\,0):s=44100:d=${piece}`, '-f', 'lavfi', '-i', `color=gray:s=640x360:r=10:d=${piece},noise=alls=80:allf=t`,
  '-c:v', 'libx264', '-preset', 'ultrafast', '-b:v', '1100k', '-maxrate', '1100k', '-bufsize', '2M', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-b:a', '96k', '-shortest', part);
ffmpeg('-stream_loop', String(Math.round(seconds / piece) - 1), '-i', part, '-c', 'copy', '-movflags', '+faststart', film);
const bytes = statSync(film).size;

const server = spawn('dotnet', [`${here}src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll`, 'serve', '--data', join(data, 'w'), '--port', port, '--web', `${here}web/dist`, '--password-iterations', '1'], { stdio: 'ignore' });
const end = () => server.kill('SIGTERM');
for (const signal of ['SIGTERM', 'SIGINT']) process.on(signal, () => (end(), process.exit(1)));
setTimeout(() => {
  console.error('This takes too long; something hangs.');
  end();
  process.exit(1);
}, 12 * 60_000).unref();
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
let token;
const send = async (method, path, options) => {
  token ??= (await (await page.request.get(`${base}/api/me`)).json()).pageToken;
  const answer = await page.request[method](`${base}/api/${path}`, { ...options, headers: { 'X-Vitrine-Token': token, ...options?.headers } });
  if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
  return answer.json();
};
const write = (path, given) => send('post', path, { data: given });
const read = async (path) => (await page.request.get(`${base}/api/${path}`)).json();
/** What hangs says what it was. */
const soon = (sentence, work) => Promise.race([work, new Promise((_, fail) => setTimeout(() => fail(new Error(sentence)), 20_000).unref())]);
const resident = () => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))[1]) / 1024;

try {
  for (let i = 0; !(await page.request.get(`${base}/healthz`).then((a) => a.ok(), () => false)); i++) {
    if (i > 200) throw new Error('The server did not start.');
    await new Promise((done) => setTimeout(done, 50));
  }
  await write('set-up', { name: 'Una', email: 'una@vitrine.example', password: 'ten letters and more', role: 'steward' });
  token = undefined;
  const study = (await write('studies', { title: 'Films', purpose: '', method: '', researchQuestions: [] })).id;
  let begun = performance.now();
  const { key } = await write(`studies/${study}/imports`, { name: 'film.mp4', bytes, modified: '', kind: 'usabilityTest', folderId: null, attachment: false });
  const file = openSync(film);
  const buffer = Buffer.alloc(32 * 1024 * 1024);
  for (let from = 0; from < bytes; ) {
    const got = readSync(file, buffer, 0, buffer.length, from);
    await send('put', `studies/${study}/imports/${key}/bytes?from=${from}`, { data: buffer.subarray(0, got), headers: { 'content-type': 'application/octet-stream' } });
    from += got;
  }
  let source = null;
  while (source === null) {
    source = (await read(`studies/${study}/imports`)).find((i) => i.key === key).sourceId;
    await new Promise((done) => setTimeout(done, 50));
  }
  const sent = performance.now() - begun;
  begun = performance.now();
  while ((await read(`sources/${source}/recording`)).state !== 'ready') await new Promise((done) => setTimeout(done, 100));
  const ready = performance.now() - begun;
  // The recording can be marked meanwhile.
  while (!readdirSync(join(data, 'w'), { recursive: true }).some((name) => name.endsWith('/scenes'))) await new Promise((done) => setTimeout(done, 100));
  const scenes = performance.now() - begun - ready;
  const memory = resident();
  const decoding = timed(() => ffmpeg('-i', film, '-map', '0:a:0', '-vn', '-ac', '1', '-ar', '8000', '-f', 'null', '-'));
  console.log(`A film of ${(seconds / 60).toFixed(0)} min, ${(bytes / 1e6).toFixed(0)} MB, on ${cpus().length} x ${cpus()[0].model}`);
  console.log('| | | bare | ratio | aim |\n|---|---|---|---|---|');
  console.log(`| sent and kept | ${ms(sent)} | | | |`);
  console.log(`| made ready (peaks), against decoding alone | ${ms(ready)} | ${ms(decoding)} | ${(ready / decoding).toFixed(2)} | |`);
  console.log(`| its changes of scene found, after that | ${ms(scenes)} | | | |`);
  console.log(`| most memory of the server | ${memory.toFixed(0)} MB | | | |`);

  const desk = page.getByRole('region', { name: /^Recording / });
  const open = async () => {
    await page.goto('about:blank');
    await page.goto(`${base}/studies/${study}/mark?source=${source}`);
    await desk.waitFor();
    await page.waitForTimeout(800);
  };
  /** The longest frame while the wave is zoomed in and out and scrolled. */
  const longest = () =>
    page.evaluate(
      (moves) =>
        new Promise((done) => {
          const wave = document.querySelector('[data-testid="wave"]');
          const { left, top } = wave.getBoundingClientRect();
          let [most, last, n] = [0, performance.now(), 0];
          const step = () => {
            const now = performance.now();
            most = Math.max(most, now - last);
            last = now;
            const zooms = n < 60 ? { deltaY: n < 30 ? 120 : -120 } : { deltaX: 40, deltaY: 0 };
            wave.dispatchEvent(new WheelEvent('wheel', { ...zooms, clientX: left + 400, clientY: top + 60, bubbles: true, cancelable: true }));
            if (++n < moves) requestAnimationFrame(step);
            else done(most);
          };
          requestAnimationFrame(() => {
            last = performance.now();
            requestAnimationFrame(step);
          });
        }),
      moves,
    );
  const several = async (one, times = runs) => {
    const all = [];
    for (let i = 0; i < times; i++) all.push(await one());
    return median(all);
  };
  const frames = async () => {
    await open();
    await longest();
    // One frame decides each of these: more of them.
    return several(longest, runs * 2 - 1);
  };
  const bare = await frames();
  for (let i = 0; i < clips; i++) {
    const beginMs = Math.floor((i * (seconds * 1000 - 9000)) / clips);
    await write(`sources/${source}/observations`, { anchor: { kind: 'time', beginMs, endMs: beginMs + 3000 + (i % 7) * 800 }, tagIds: [], newTags: [`tag ${i % 40}`] });
  }
  const full = await frames();
  const seek = () =>
    soon(
      'A seek has not ended.',
      page.evaluate(
        (to) =>
          new Promise((done) => {
            const video = document.querySelector('video');
            const sought = () => {
              const begun = performance.now();
              video.addEventListener('seeked', () => done(performance.now() - begun), { once: true });
              video.currentTime = to;
            };
            if (video.readyState > 0) sought();
            else video.addEventListener('loadedmetadata', sought, { once: true });
          }),
        Math.random() * (seconds - 10),
      ),
    );
  await seek();
  const sought = await several(seek);
  const key1 = async () => {
    await desk.focus();
    await page.keyboard.press('i');
    await page.keyboard.press('ArrowRight');
    // The page listens before the key comes.
    await page.evaluate(() => {
      window.painted = new Promise((done) =>
        document.addEventListener(
          'keydown',
          () => {
            const begun = performance.now();
            const look = () => {
              if (document.querySelector('[data-testid="tag-line"]')) requestAnimationFrame(() => setTimeout(() => done(performance.now() - begun)));
              else setTimeout(look);
            };
            look();
          },
          { capture: true, once: true },
        ),
      );
    });
    await page.keyboard.press('o');
    const took = await soon('o did not open the tag line.', page.evaluate(() => window.painted));
    await page.keyboard.press('Escape');
    await desk.focus();
    await page.keyboard.press('Escape');
    return took;
  };
  const keyed = await several(key1);
  console.log(`| longest frame, zooming and scrolling, ${clips} clips against none | ${ms(full)} | ${ms(bare)} | ${(full / bare).toFixed(2)} | under 50 ms, 1.3 times |`);
  console.log(`| o to the tag line painted | ${ms(keyed)} | | | under 50 ms |`);
  console.log(`| a seek, until there is a picture | ${ms(sought)} | | | |`);

  const cut = [];
  const alone = [];
  for (let i = 0; i < runs; i++) {
    const beginMs = Math.floor((seconds * 1000 * (i + 1)) / (runs + 2));
    const { id } = await write(`sources/${source}/observations`, { anchor: { kind: 'time', beginMs, endMs: beginMs + 15_000 }, tagIds: [], newTags: [] });
    const from = performance.now();
    if (!(await page.request.get(`${base}/api/observations/${id}/cutout`)).ok()) throw new Error('Nothing was cut out.');
    cut.push(performance.now() - from);
    alone.push(timed(() => ffmpeg('-ss', String(beginMs / 1000), '-i', film, '-t', '15', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '23', '-c:a', 'aac', join(data, 'alone.mp4'))));
  }
  console.log(`| a clip of 15 s cut, against ffmpeg alone | ${ms(median(cut))} | ${ms(median(alone))} | ${(median(cut) / median(alone)).toFixed(2)} | under 3 times |`);
  if (readdirSync(join(data, 'w', 'made')).length !== 1) throw new Error('What was made of one film stands in one folder.');
} finally {
  await browser.close();
  end();
  rmSync(data, { recursive: true, force: true });
}
