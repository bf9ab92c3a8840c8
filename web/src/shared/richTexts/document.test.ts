import { getSchema, type JSONContent } from '@tiptap/core';
import { expect, test } from 'vitest';
import type { RichBlock, RichInline, RichText } from '@/parts/richText';
import { toDocument, toText } from './document';
import { textExtensions } from './extensions';

const schema = getSchema(textExtensions());

/** Through the editor's own document, which refuses what it does not know. */
const through = (text: RichText): RichText => {
  const node = schema.nodeFromJSON(toDocument(text));
  node.check();
  return toText(node.toJSON() as JSONContent);
};

const words = (text: string, form: Omit<RichInline, 'type' | 'text'> = {}): RichInline => ({ type: 'text', text, ...form });

const every: RichBlock[] = [
  { type: 'paragraph', content: [words('plain '), words('strong', { strong: true }), words('both', { strong: true, emphasis: true }), { type: 'break' }] },
  { type: 'paragraph', content: [] },
  ...[1, 2, 3].map((level) => ({ type: 'heading', level, content: [words('A heading')] })),
  { type: 'paragraph', content: [words('here', { link: 'https://vitrine.example/?a=1&b=2' }), { type: 'mention', thing: 'tag', id: 5, title: 'queue' }] },
  {
    type: 'bulletList',
    items: [
      [{ type: 'paragraph', content: [words('one')] }],
      [
        { type: 'heading', level: 2, content: [] },
        { type: 'orderedList', items: [[{ type: 'paragraph', content: [words('deep', { emphasis: true })] }]] },
      ],
    ],
  },
  { type: 'quote', thing: 'observation', id: 7, caption: '' },
  { type: 'attachment', thing: 'attachment', id: 2, caption: 'A plan' },
  { type: 'rule' },
  { type: 'poll', ask: 'What?', of: [1, null] } as RichBlock,
  { type: 'heading', level: 9, content: [] },
  { type: 'paragraph', content: [{ type: 'sum', note: 'x' } as RichInline] },
];

test('every part of a text goes through the editor’s document and comes back as it was', () => {
  for (const block of every) expect(through({ version: 1, blocks: [block, block] })).toEqual({ version: 1, blocks: [block, block] });
  expect(through({ version: 1, blocks: every })).toEqual({ version: 1, blocks: every });
});

test('nothing written is an empty text', () => {
  expect(through({ version: 1, blocks: [] })).toEqual({ version: 1, blocks: [] });
  expect(through({ version: 1, blocks: [{ type: 'paragraph', content: [] }] })).toEqual({ version: 1, blocks: [] });
  expect(toText({ type: 'doc' })).toEqual({ version: 1, blocks: [] });
});

test('a list without items has a line to write in', () => {
  expect(through({ version: 1, blocks: [{ type: 'bulletList', items: [] }] }).blocks[0]!.items).toEqual([[{ type: 'paragraph', content: [] }]]);
});
