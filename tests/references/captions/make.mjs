// Writes what two general-purpose packages read in the caption files beside this script, for tests/Vitrine.Formats.Tests/CaptionsReferenceTests.cs:
//   webvtt-parser 2.2.0 (CC0), which follows the parsing rules of the WebVTT specification, and subtitle 4.2.2 (MIT) for SubRip.
// To run it again: npm install webvtt-parser@2.2.0 subtitle@4.2.2 in an empty folder, then: node make.mjs THAT-FOLDER
import { createRequire } from 'node:module';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

const require = createRequire(join(resolve(process.argv[2]), 'x.js'));
const { WebVTTParser } = require('webvtt-parser');
const { parseSync } = require('subtitle');
const here = import.meta.dirname;
const words = (text) => text.replace(/\s+/g, ' ').trim();

/** The words of a cue, in stretches of one voice. */
function voiced(tree) {
  const parts = [];
  const walk = (node, voice) => {
    if (node.type === 'text') parts.push([voice, node.value]);
    for (const child of node.children ?? []) walk(child, node.name === 'v' ? node.value : voice);
  };
  walk(tree, null);
  const joined = [];
  for (const [voice, text] of parts) {
    if (joined.length > 0 && joined.at(-1)[0] === voice) joined.at(-1)[1] += text;
    else joined.push([voice, text]);
  }
  return joined.map(([voice, text]) => ({ voice, words: words(text) })).filter((p) => p.words !== '');
}

for (const file of readdirSync(here).filter((f) => /\.(vtt|srt)$/.test(f))) {
  const text = readFileSync(join(here, file), 'utf8');
  const cues = file.endsWith('.vtt')
    ? new WebVTTParser().parse(text, 'metadata').cues.map((c) => ({ begin: Math.round(c.startTime * 1000), end: Math.round(c.endTime * 1000), parts: voiced(c.tree) }))
    : parseSync(text).filter((n) => n.type === 'cue').map(({ data }) => ({ begin: data.start, end: data.end, parts: [{ voice: null, words: words(data.text) }] }));
  writeFileSync(join(here, `${file}.json`), JSON.stringify(cues, null, 1) + '\n');
}
