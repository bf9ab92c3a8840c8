// Asks a general-purpose package for text quotes, dom-anchor-text-quote 4.0.2 (MIT; with jsdom 29.1.1), where it finds the marked words of each case after the correction,
// for tests/Vitrine.Core.Tests/ReanchorReferenceTests.cs.
// To run it again: npm install dom-anchor-text-quote@4.0.2 jsdom@29.1.1 in an empty folder, then: node make.mjs THAT-FOLDER
import { createRequire } from 'node:module';
import { readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

const require = createRequire(join(resolve(process.argv[2]), 'x.js'));
const { window } = new (require('jsdom').JSDOM)('<body></body>');
Object.assign(globalThis, { window, document: window.document, Node: window.Node, NodeFilter: window.NodeFilter, Range: window.Range });
const quote = require('dom-anchor-text-quote');
const here = import.meta.dirname;

const open = '⟦';
const shut = '⟧';
const place = (text) => [text.replace(/[⟦⟧]/g, ''), text.indexOf(open), text.indexOf(shut) - 1];
const page = (text) => Object.assign(window.document.createElement('div'), { textContent: text });

const lines = readFileSync(join(here, 'cases.txt'), 'utf8').split('\n').filter((line) => line && !line.startsWith('#'));
const found = [];
for (let i = 0; i < lines.length; i += 3) {
  const [before, start, end] = place(lines[i + 1].replaceAll('\\n', '\n'));
  const [after] = place(lines[i + 2].replaceAll('\\n', '\n'));
  const selector = quote.fromTextPosition(page(before), { start, end });
  const position = quote.toTextPosition(page(after), selector);
  found.push({ name: lines[i].slice(3), start: position?.start ?? null, end: position?.end ?? null });
}
writeFileSync(join(here, 'found.json'), `${JSON.stringify(found, null, 1)}\n`);
