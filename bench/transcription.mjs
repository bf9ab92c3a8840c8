// How well recordings are written down: bench/run transcription
// The demo's recordings go to a server of its own, once with the stand-in and once with Debian's pocketsphinx; what was heard is held against
// what was said by Debian's sctk (NIST's sclite). Prints a table of word error rates. --tiny asks the stand-in alone.
import { execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './freePort.mjs';

const here = new URL('..', import.meta.url).pathname;
const tiny = process.argv.includes('--tiny');
const port = await freePort();
const base = `http://127.0.0.1:${port}/api`;
const folder = mkdtempSync(join(tmpdir(), 'vitrine-bench-'));
const recordings = [['P09-kiosk.webm', 2], ...(tiny ? [] : [['P08-kiosk.webm', 2], ['P01-alder.mp3', 2]])];
const plain = (text) => text.toLowerCase().normalize('NFKD').replace(/[’‘]/g, "'").replace(/[^a-z0-9' ]+/g, ' ').replace(/\s+/g, ' ').trim();
/** What is said, by the captions from which the recording was made. */
const said = (name) =>
  plain(
    readFileSync(join(here, 'demo/boarding', name.replace(/\..*/, '.vtt')), 'utf8')
      .split('\n')
      .filter((line) => line.startsWith('<v '))
      .map((line) => line.replace(/<[^>]*>/g, ''))
      .join(' '),
  );

/** Has all recordings written down by one service: for each, what was heard and how long it took. */
async function heard(service) {
  const data = join(folder, service);
  const server = spawn('dotnet', [`${here}src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll`, 'serve', '--data', data, '--port', port, '--web', `${here}web/dist`, '--password-iterations', '1', '--transcriber', service], { stdio: 'ignore' });
  let cookie = '';
  let token = '';
  const ask = async (method, path, body, type = 'application/json') => {
    const answer = await fetch(`${base}/${path}`, { method, body: body === undefined ? undefined : type === 'application/json' ? JSON.stringify(body) : body, headers: { cookie, 'X-Vitrine-Token': token, ...(body === undefined ? {} : { 'content-type': type }) } });
    for (const set of answer.headers.getSetCookie()) cookie = [...cookie.split('; ').filter((c) => c !== '' && !c.startsWith(set.split('=')[0] + '=')), set.split(';')[0]].join('; ');
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${path}: ${text}`);
    return text === '' ? null : JSON.parse(text);
  };
  const pause = (ms) => new Promise((done) => setTimeout(done, ms));
  try {
    for (let i = 0; !(await fetch(base.replace('/api', '/healthz')).then((a) => a.ok, () => false)); i++) {
      if (i > 400) throw new Error('The server did not start.');
      await pause(50);
    }
    token = (await ask('GET', 'me')).pageToken;
    await ask('POST', 'set-up', { name: 'Una', email: 'una@vitrine.example', password: 'ten letters and more', role: 'steward' });
    token = (await ask('GET', 'me')).pageToken;
    const study = (await ask('POST', 'studies', { title: 'Heard', purpose: '', method: '', researchQuestions: [] })).id;
    const all = new Map();
    for (const [name, speakers] of recordings) {
      const bytes = readFileSync(join(here, 'demo/boarding', name));
      const { key } = await ask('POST', `studies/${study}/imports`, { name, bytes: bytes.length, modified: '', kind: 'interview', folderId: null, attachment: false });
      await ask('PUT', `studies/${study}/imports/${key}/bytes?from=0`, bytes, 'application/octet-stream');
      let source = null;
      for (; source === null; await pause(50)) source = (await ask('GET', `studies/${study}/imports`)).find((i) => i.key === key).sourceId;
      while ((await ask('GET', `sources/${source}/recording`)).state !== 'ready') await pause(50);
      const begun = performance.now();
      await ask('POST', `sources/${source}/transcription`, { language: service === 'simulated' ? 'en' : 'en-US', speakers });
      while ((await ask('GET', `sources/${source}/transcription`)).working) await pause(50);
      const took = performance.now() - begun;
      const { sources } = await ask('GET', `studies/${study}/sources?page=0`);
      const transcript = sources.find((s) => s.inStepWithId === source);
      all.set(name, { words: plain((await ask('GET', `sources/${transcript.id}`)).text), took, lasts: (await ask('GET', `sources/${source}/recording`)).lengthMs });
    }
    return all;
  } finally {
    server.kill('SIGTERM');
  }
}

setTimeout(() => {
  console.error('This takes too long; something hangs.');
  process.exit(1);
}, 12 * 60_000).unref();
try {
  console.log(`Recordings of synthetic voices, on ${cpus().length} x ${cpus()[0].model}`);
  console.log('| recording | service | words | wrong, left out and put in (sclite) | took, times its length |\n|---|---|---|---|---|');
  for (const service of tiny ? ['simulated'] : ['simulated', 'pocketsphinx']) {
    for (const [name, { words, took, lasts }] of await heard(service)) {
      const [reference, hypothesis] = ['reference', 'hypothesis'].map((n) => join(folder, n));
      writeFileSync(reference, `${said(name)} (a_1)\n`);
      writeFileSync(hypothesis, `${words} (a_1)\n`);
      const report = execFileSync('sctk', ['sclite', '-r', reference, 'trn', '-h', hypothesis, 'trn', '-i', 'rm', '-o', 'sum', 'stdout']).toString();
      const [, count, , , , , wrong] = /Sum\/Avg\s*\|\s*\d+\s+(\d+)\s*\|\s*([\d.]+)\s+([\d.]+)\s+([\d.]+)\s+([\d.]+)\s+([\d.]+)/.exec(report);
      console.log(`| ${name} | ${service} | ${count} | ${wrong} % | ${(took / lasts).toFixed(2)} |`);
      if (service === 'simulated' && Number(wrong) > 0) throw new Error('The stand-in does not know what is said in the demo.');
    }
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
