import type { JSONContent } from '@tiptap/core';
import { isEmbedded, type RichBlock, type RichInline, type RichText } from '@/parts/richText';

/*
 * A text in blocks to the document of the editor and back: one to one. What is of a type that is not known goes through as it is.
 */

/** The editor's document of a text; it always has a paragraph to write in. */
export function toDocument(text: RichText): JSONContent {
  const content = text.blocks.map(toNode);
  return { type: 'doc', content: content.length > 0 ? content : [{ type: 'paragraph' }] };
}

/** The text of the editor's document; a document without a word, and nothing in it, is an empty text. */
export function toText(document: JSONContent): RichText {
  const nodes = document.content ?? [];
  const empty = nodes.length === 0 || (nodes.length === 1 && nodes[0]!.type === 'paragraph' && (nodes[0]!.content ?? []).length === 0);
  return { version: 1, blocks: empty ? [] : nodes.map(fromNode) };
}

function toNode(block: RichBlock): JSONContent {
  const content = (block.content ?? []).map(toInline);
  const words = content.length > 0 ? { content } : {};
  switch (block.type) {
    case 'paragraph':
      return { type: 'paragraph', ...words };
    case 'heading':
      if (block.level === 1 || block.level === 2 || block.level === 3) return { type: 'heading', attrs: { level: block.level }, ...words };
      break;
    case 'bulletList':
    case 'orderedList': {
      const items = (block.items as RichBlock[][] | undefined) ?? [];
      const item = (blocks: RichBlock[]) => ({ type: 'listItem', content: blocks.length > 0 ? blocks.map(toNode) : [{ type: 'paragraph' }] });
      return { type: block.type, content: (items.length > 0 ? items : [[]]).map(item) };
    }
    case 'rule':
      return { type: 'horizontalRule' };
  }
  if (isEmbedded(block)) return { type: 'embedded', attrs: { as: block.type, thing: block.thing, id: block.id, caption: block.caption ?? '' } };
  return { type: 'unknownBlock', attrs: { json: JSON.stringify(block) } };
}

function toInline(part: RichInline): JSONContent {
  if (part.type === 'break') return { type: 'hardBreak' };
  if (part.type === 'mention' && part.thing !== undefined && part.id !== undefined)
    return { type: 'mention', attrs: { thing: part.thing, id: part.id, title: part.title ?? '' } };
  if (part.type !== 'text' || !part.text) return { type: 'unknownInline', attrs: { json: JSON.stringify(part) } };
  const marks = [
    ...(part.link ? [{ type: 'link', attrs: { href: part.link } }] : []),
    ...(part.strong ? [{ type: 'bold' }] : []),
    ...(part.emphasis ? [{ type: 'italic' }] : []),
  ];
  return { type: 'text', text: part.text, ...(marks.length > 0 ? { marks } : {}) };
}

const attribute = (node: JSONContent, name: string) => (node.attrs as Record<string, unknown> | undefined)?.[name];
const content = (node: JSONContent) => (node.content ?? []).map(fromInline);

function fromNode(node: JSONContent): RichBlock {
  switch (node.type) {
    case 'heading':
      return { type: 'heading', level: Number(attribute(node, 'level')), content: content(node) };
    case 'bulletList':
    case 'orderedList':
      return { type: node.type, items: (node.content ?? []).map((item) => (item.content ?? []).map(fromNode)) };
    case 'horizontalRule':
      return { type: 'rule' };
    case 'embedded':
      return {
        type: String(attribute(node, 'as')),
        thing: String(attribute(node, 'thing')),
        id: Number(attribute(node, 'id')),
        caption: String(attribute(node, 'caption') ?? ''),
      };
    case 'unknownBlock':
      return JSON.parse(String(attribute(node, 'json'))) as RichBlock;
    default:
      return { type: 'paragraph', content: content(node) };
  }
}

function fromInline(node: JSONContent): RichInline {
  switch (node.type) {
    case 'hardBreak':
      return { type: 'break' };
    case 'mention':
      return { type: 'mention', thing: String(attribute(node, 'thing')), id: Number(attribute(node, 'id')), title: String(attribute(node, 'title') ?? '') };
    case 'unknownInline':
      return JSON.parse(String(attribute(node, 'json'))) as RichInline;
  }
  const marks = node.marks ?? [];
  const link = marks.find((m) => m.type === 'link')?.attrs?.['href'] as string | undefined;
  return {
    type: 'text',
    text: node.text ?? '',
    ...(marks.some((m) => m.type === 'bold') ? { strong: true } : {}),
    ...(marks.some((m) => m.type === 'italic') ? { emphasis: true } : {}),
    ...(link ? { link } : {}),
  };
}
