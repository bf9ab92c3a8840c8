// Makes the demo's recordings and picture of the captions and screens beside and below: drawn kiosk screens (headless Chromium),
// synthetic voices (espeak-ng), put together by ffmpeg, all of Debian. Run by hand when something of it changes: node make.mjs
// The made files are committed, so that the demo starts without these programs.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const here = new URL('.', import.meta.url).pathname;
const work = mkdtempSync(join(tmpdir(), 'vitrine-demo-'));
const run = (program, ...args) => execFileSync(program, args, { stdio: ['ignore', 'pipe', 'ignore'] }).toString();
const seconds = (clock) => clock.split(':').reduce((all, part) => all * 60 + Number(part), 0);

const voices = {
  Tom: ['-v', 'en-gb', '-p', '35'],
  Ida: ['-v', 'en-gb-x-rp+f2', '-p', '55'],
  Linnet: ['-v', 'en-us+f3', '-p', '60'],
  Rowan: ['-v', 'en-gb-scotland+f4', '-p', '50'],
  Alder: ['-v', 'en-gb-x-gbclan+m3', '-p', '40'],
};

/** The cues of a caption file: from, to, who, words. */
const cuesOf = (file) =>
  [...readFileSync(join(here, '..', file), 'utf8').matchAll(/(\d\d:\d\d:\d\d\.\d+) --> (\d\d:\d\d:\d\d\.\d+)\n<v (\w+)>(.+)/g)].map(([, from, to, who, words]) => ({
    from: seconds(from),
    to: seconds(to),
    who,
    words,
  }));

/** Each cue spoken within its time, with the hum of a room behind. */
function spoken(cues, length) {
  const inputs = [];
  const parts = cues.map((cue, i) => {
    const wav = join(work, `cue-${i}.wav`);
    run('espeak-ng', ...voices[cue.who], '-s', '165', '-w', wav, cue.words.replace(/[“”…]/g, ' '));
    const lasts = Number(run('ffprobe', '-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0', wav));
    const tempo = Math.min(2, Math.max(0.8, lasts / (cue.to - cue.from - 0.1)));
    inputs.push('-i', wav);
    return `[${i}]aresample=24000,atempo=${tempo.toFixed(3)},adelay=${Math.round(cue.from * 1000)}:all=1[c${i}]`;
  });
  const out = join(work, 'spoken.wav');
  inputs.push('-f', 'lavfi', '-i', `anoisesrc=color=brown:amplitude=0.004:sample_rate=24000:duration=${length}:seed=7`);
  const mix = `${parts.join(';')};${cues.map((_, i) => `[c${i}]`).join('')}[${cues.length}]amix=inputs=${cues.length + 1}:normalize=0:duration=longest,atrim=0:${length}[out]`;
  run('ffmpeg', '-v', 'error', '-y', ...inputs, '-filter_complex', mix, '-map', '[out]', '-ac', '1', out);
  return out;
}

const style = `<style>*{box-sizing:border-box}body{margin:0;width:960px;height:600px;background:#e9e3d4;font:22px/1.4 sans-serif;color:#20303a;padding:40px}
main{background:#fff;height:520px;padding:36px 44px;border-radius:6px;position:relative}h1{font-size:34px;margin:0 0 26px}button{font:inherit;font-size:24px;background:#fff;border:2px solid #9aa7a9;
border-radius:8px;padding:18px 34px;margin:0 16px 16px 0;color:inherit}.on{background:#d7e6df;border-color:#20303a}.foot{position:absolute;left:44px;right:44px;bottom:34px;display:flex;justify-content:space-between}
small{color:#6b777b;position:absolute;left:44px;bottom:8px;font-size:14px}.press{outline:5px solid #5b6fa8;outline-offset:4px}</style>`;
const screen = (inside) => `${style}<main>${inside}<small>drawn kiosk, prototype 2</small></main>`;
const islands = (on) => ['Inner Holm', 'Tarra', 'Skelda'].map((name) => `<button class="${name === on ? 'on' : ''}">${name}</button>`).join('');
const foot = (pressed = '') =>
  `<div class="foot"><button class="${pressed === 'return' ? 'press' : ''}">&#x2B05; Return?</button><button class="${pressed === 'next' ? 'press' : ''}">Next</button></div>`;
const where = (on) => screen(`<h1>Where to?</h1>${islands(on)}`);
const ask = (pressed) => screen(`<h1>Tarra</h1><p>Adult, 1</p>${foot(pressed)}`);
const sold = (what, price, foots = foot()) => screen(`<h1>Your ticket</h1><p>${what}</p><p>${price}</p>${foots}`);
const who = (inside, on) => screen(`<h1>Who travels?</h1>${inside.map((n) => `<button class="${n === on ? 'on' : ''}">${n}</button>`).join('')}`);

/** A film of screens, each from its second on, with the words of the captions. */
function film(captions, out, screens, length) {
  const list = screens.flatMap(([from, html], i) => {
    const [page, picture] = [join(work, `${i}.html`), join(work, `${i}.png`)];
    writeFileSync(page, `<meta charset=utf-8>${html}`);
    run('chromium-headless-shell', '--no-sandbox', '--disable-gpu', '--hide-scrollbars', '--window-size=960,600', `--screenshot=${picture}`, `file://${page}`);
    return [`file '${picture}'`, `duration ${(screens[i + 1]?.[0] ?? length) - from}`];
  });
  writeFileSync(join(work, 'list.txt'), [...list, list.at(-2)].join('\n'));
  const sound = spoken(cuesOf(captions), length);
  run(
    'ffmpeg', '-v', 'error', '-y', '-f', 'concat', '-safe', '0', '-i', join(work, 'list.txt'), '-i', sound, '-t', String(length), '-vf', 'fps=5,format=yuv420p', '-c:v', 'libvpx-vp9',
    '-deadline', 'good', '-cpu-used', '4', '-crf', '36', '-b:v', '0', '-g', '25', '-c:a', 'libopus', '-b:a', '32k', join(here, '..', out),
  );
}

film('P08-kiosk.vtt', 'P08-kiosk.webm', [
  [0, where()],
  [12, where('Tarra')],
  [15, ask()],
  [27.5, ask('next')],
  [29, sold('1 single to Tarra', '£8.40')],
  [36.5, sold('1 single to Tarra', '£8.40', foot('return'))],
  [38, sold('2 returns to Tarra', '£31.20')],
  [66, screen('<h1>Take your tickets</h1><p>Boarding at quay 2</p>')],
], 88);
film('P09-kiosk.vtt', 'P09-kiosk.webm', [
  [0, where()],
  [6.5, where('Tarra')],
  [8, who(['Adult', 'Child', 'Freight'], 'Adult')],
  [10.5, who(['Box', 'Bicycle', 'Animal'], 'Bicycle')],
  [13.5, ask()],
  [26, ask('next')],
  [27.5, sold('1 single to Tarra, with bicycle', 'from £8.40')],
  [51, screen('<h1>Take your ticket</h1><p>Boarding at quay 2</p>')],
], 72);
run('ffmpeg', '-v', 'error', '-y', '-i', spoken(cuesOf('P01-alder.vtt'), 78), '-c:a', 'libmp3lame', '-b:a', '48k', join(here, '..', 'P01-alder.mp3'));

const [page, picture] = [join(work, 'signs.html'), join(here, '..', 'quay-signs.png')];
writeFileSync(
  page,
  `<meta charset=utf-8><style>body{margin:0;width:1200px;height:760px;background:linear-gradient(#cfd9dc 0 58%,#8fa3a6 58% 72%,#a99f8d 72%);font-family:sans-serif;position:relative;color:#20303a}
  div{position:absolute;background:#fdfbf4;border:5px solid #20303a;padding:14px 20px;font-size:30px;line-height:1.25}i{position:absolute;background:#5f584b;width:14px}</style>
  <i style="left:250px;top:330px;height:300px"></i><i style="left:610px;top:300px;height:330px"></i><i style="left:1000px;top:360px;height:270px"></i>
  <div style="left:90px;top:150px;width:330px">&#x2B05; Quay 1<br>Inner Holm<br>Freight, all islands</div>
  <div style="left:490px;top:90px;width:260px;background:#20303a;color:#e9d58a">NEXT SAILING<br>10:40 Tarra<br>ON TIME</div>
  <div style="left:830px;top:200px;width:310px">Foot passengers<br>by the steps &#x27A1;<br><span style="font-size:17px">Step-free: ask a member of staff</span></div>
  <div style="left:520px;top:330px;width:190px;font-size:19px;transform:rotate(-4deg);border-width:2px">10:40 cancelled<br>see notice</div>
  <p style="position:absolute;left:20px;bottom:4px;font-size:15px">drawn by hand of what was seen on the quay, 7 November</p>`,
);
run('chromium-headless-shell', '--no-sandbox', '--disable-gpu', '--hide-scrollbars', '--window-size=1200,760', `--screenshot=${picture}`, `file://${page}`);
rmSync(work, { recursive: true });
