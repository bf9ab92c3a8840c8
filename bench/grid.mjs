// How the grid of 500 participants with 20 attributes stands up to typing: bench/run grid
// A server of its own on a folder of its own; headless Chromium; from the key's own time stamp to after the next frame. Prints a table; the ratio is to the same key on an empty page.
import { spawn } from 'node:child_process';
import { createRequire } from 'node:module';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './freePort.mjs';

const here = new URL('..', import.meta.url).pathname;
const { chromium } = createRequire(new URL('../web/package.json', import.meta.url))('@playwright/test');
const tiny = process.argv.includes('--tiny');
const [people, attributes, presses] = tiny ? [12, 3, 2] : [500, 20, 30];
const port = await freePort();
const base = `http://127.0.0.1:${port}`;
const data = mkdtempSync(join(tmpdir(), 'vitrine-bench-'));
const server = spawn('dotnet', [`${here}src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll`, 'serve', '--data', data, '--port', port, '--web', `${here}web/dist`], { stdio: 'ignore' });
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
const wait = (ms) => new Promise((done) => setTimeout(done, ms));

async function write(path, body) {
  const { pageToken } = await (await page.request.get(`${base}/api/me`)).json();
  const answer = await page.request.post(`${base}/api/${path}`, { data: body, headers: { 'X-Vitrine-Token': pageToken } });
  if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
  const said = await answer.text();
  return said ? JSON.parse(said) : null;
}
const read = async (path) => (await page.request.get(`${base}/api/${path}`)).json();

/** Milliseconds from each press to painted. */
async function painted(key, after = 120) {
  await page.evaluate(() => {
    window.times = [];
    window.onkeydown = (event) => requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - event.timeStamp)));
  });
  for (let i = 0; i < presses; i++) {
    await page.keyboard.press(key);
    await wait(after);
    if (key.length === 1) await page.keyboard.press('Escape');
  }
  const times = (await page.evaluate(() => window.times)).filter((_, i) => key.length > 1 || i % 2 === 0).sort((a, b) => a - b);
  return [times[Math.floor(times.length / 2)], times[Math.floor(times.length * 0.95)]];
}

setTimeout(() => process.exit(1), 3 * 60_000).unref();
try {
  for (let i = 0; i < 200 && !(await page.request.get(`${base}/healthz`).then((a) => a.ok(), () => false)); i++) await wait(50);
  await write('set-up', { name: 'Una', email: 'una@vitrine.example', password: 'ten letters and more', role: 'steward' });
  const study = (await write('studies', { title: 'Grid', purpose: '', method: '', researchQuestions: [] })).id;
  const head = ['id', ...Array.from({ length: attributes }, (_, i) => `fact ${i + 1}`)];
  const rows = Array.from({ length: people }, (_, r) => [`S${r + 1}`, ...Array.from({ length: attributes }, (_, c) => (r * 7 + c * 3) % 5)]);
  const { key } = await write(`studies/${study}/imports/pasted-table`, { name: 'grid', text: [head, ...rows].map((r) => r.join('\t')).join('\n') });
  const { headerRows, columns } = await read(`studies/${study}/imports/${key}/table`);
  await write(`studies/${study}/imports/${key}/survey`, { name: 'grid', headerRows, columns });
  while ((await read(`studies/${study}/imports`)).some((i) => i.state !== 'done')) await wait(100);

  await page.goto(`${base}/sign-in`);
  await wait(1000);
  const [bare] = await painted('ArrowDown');
  await page.goto(`${base}/studies/${study}/gather/people`);
  await page.getByText('Respondent S5', { exact: true }).click();
  console.log(`The grid: ${people} participants with ${attributes} attributes; an empty page paints after ${bare.toFixed(0)} ms\n`);
  console.log('| key | median | 95th percentile | times the empty page |\n|---|---|---|---|');
  await page.keyboard.press('ArrowRight');
  for (const [name, pressed] of [['arrow', 'ArrowDown'], ['the first letter into a cell', '4']]) {
    const [middle, late] = await painted(pressed);
    console.log(`| ${name} | ${middle.toFixed(0)} ms | ${late.toFixed(0)} ms | ${(middle / bare).toFixed(1)} |`);
  }
} finally {
  await browser.close();
  server.kill('SIGTERM');
  rmSync(data, { recursive: true, force: true });
}
