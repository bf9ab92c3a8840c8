// How the grid of 500 participants with 20 attributes stands up to typing: bench/run grid
// A server of its own on a folder of its own; headless Chromium; from the key's own time stamp to after the next frame. Prints a table; the ratio is to the same key on an empty page.
import { at, ownServer, wait } from './ownServer.mjs';

const tiny = process.argv.includes('--tiny');
const [people, attributes, presses] = tiny ? [12, 3, 2] : [500, 20, 30];
const { base, page, read, write, painted, end } = await ownServer(3);

try {
  const study = (await write('studies', { title: 'Grid', purpose: '', method: '', researchQuestions: [] })).id;
  const head = ['id', ...Array.from({ length: attributes }, (_, i) => `fact ${i + 1}`)];
  const rows = Array.from({ length: people }, (_, r) => [`S${r + 1}`, ...Array.from({ length: attributes }, (_, c) => (r * 7 + c * 3) % 5)]);
  const { key } = await write(`studies/${study}/imports/pasted-table`, { name: 'grid', text: [head, ...rows].map((r) => r.join('\t')).join('\n') });
  const { headerRows, columns } = await read(`studies/${study}/imports/${key}/table`);
  await write(`studies/${study}/imports/${key}/survey`, { name: 'grid', headerRows, columns });
  while ((await read(`studies/${study}/imports`)).some((i) => i.state !== 'done')) await wait(100);

  await page.goto(`${base}/sign-in`);
  await wait(1000);
  const bare = at(0.5, await painted('ArrowDown', presses, 120));
  await page.goto(`${base}/studies/${study}/gather/people`);
  await page.getByText('Respondent S5', { exact: true }).click();
  console.log(`The grid: ${people} participants with ${attributes} attributes; an empty page paints after ${bare.toFixed(0)} ms\n`);
  console.log('| key | median | 95th percentile | times the empty page |\n|---|---|---|---|');
  await page.keyboard.press('ArrowRight');
  for (const [name, pressed] of [['arrow', 'ArrowDown'], ['the first letter into a cell', '4']]) {
    const times = [];
    for (let i = 0; i < presses; i++) {
      times.push(...(await painted(pressed, 1, 120)));
      // What it takes to leave the cell is not asked.
      if (pressed.length === 1) await page.keyboard.press('Escape');
    }
    const [middle, late] = [at(0.5, times), at(0.95, times)];
    console.log(`| ${name} | ${middle.toFixed(0)} ms | ${late.toFixed(0)} ms | ${(middle / bare).toFixed(1)} |`);
  }
} finally {
  await end();
}
