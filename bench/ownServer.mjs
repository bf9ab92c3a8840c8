// A server of its own on a folder of its own, and a headless Chromium that looks at it; both end with the program.
import { spawn } from 'node:child_process';
import { createRequire } from 'node:module';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './freePort.mjs';

const here = new URL('..', import.meta.url).pathname;
const { chromium } = createRequire(new URL('../web/package.json', import.meta.url))('@playwright/test');

export const wait = (ms) => new Promise((done) => setTimeout(done, ms));
export const at = (share, times) => [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))];

/** Set up for a steward, who is signed in. It ends by itself after so many minutes. */
export async function ownServer(minutes) {
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const data = mkdtempSync(join(tmpdir(), 'vitrine-bench-'));
  const program = `${here}src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll`;
  const server = spawn('dotnet', [program, 'serve', '--data', data, '--port', port, '--web', `${here}web/dist`], { stdio: 'ignore' });
  // It does not keep the program from ending, and ends with it.
  server.unref();
  process.on('exit', () => {
    server.kill('SIGTERM');
    rmSync(data, { recursive: true, force: true });
  });
  for (const signal of ['SIGTERM', 'SIGINT']) process.on(signal, () => process.exit(1));
  setTimeout(() => {
    console.error('This takes too long; something hangs.');
    process.exit(1);
  }, minutes * 60_000).unref();
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const read = async (path) => (await page.request.get(`${base}/api/${path}`)).json();
  const write = async (path, body, method = 'POST') => {
    const { pageToken } = await read('me');
    const answer = await page.request.fetch(`${base}/api/${path}`, { method, data: body, headers: { 'X-Vitrine-Token': pageToken } });
    if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
    const said = await answer.text();
    return said ? JSON.parse(said) : null;
  };
  /** Milliseconds from each press of a key to painted, by the key's own time stamp. */
  const painted = async (key, times, after) => {
    await page.evaluate(() => {
      window.times = [];
      window.onkeydown = (event) => requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - event.timeStamp)));
    });
    for (let i = 0; i < times; i++) {
      await page.keyboard.press(key);
      await wait(after);
    }
    return page.evaluate(() => window.times);
  };
  for (let i = 0; i < 200 && !(await page.request.get(`${base}/healthz`).then((a) => a.ok(), () => false)); i++) await wait(50);
  await write('set-up', { name: 'Una', email: 'una@vitrine.example', password: 'ten letters and more', role: 'steward' });
  return { base, page, read, write, painted, end: () => browser.close() };
}
