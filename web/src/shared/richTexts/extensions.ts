import { mergeAttributes, Node, type Extensions } from '@tiptap/core';
import StarterKit from '@tiptap/starter-kit';

/** A part of the document that is one whole, and holds what it stands for as attributes. */
const whole = (name: string, inline: boolean, attributes: readonly string[]) =>
  Node.create({
    name,
    group: inline ? 'inline' : 'block',
    inline,
    atom: true,
    selectable: true,
    draggable: !inline,
    addAttributes: () => Object.fromEntries(attributes.map((attribute) => [attribute, { default: null, rendered: false }])),
    renderHTML: ({ HTMLAttributes }) => [inline ? 'span' : 'div', mergeAttributes(HTMLAttributes, { 'data-part': name })],
  });

export const Embedded = whole('embedded', false, ['as', 'thing', 'id', 'caption']);
export const Mention = whole('mention', true, ['thing', 'id', 'title']).extend({
  renderHTML: ({ node }) => ['span', { class: 'mention', 'data-part': 'mention' }, String(node.attrs['title'])],
  renderText: ({ node }) => String(node.attrs['title']),
});

/** What texts are made of, as the editor knows it: just what the server keeps. */
export const textExtensions = (embedded: typeof Embedded = Embedded): Extensions => [
  StarterKit.configure({
    blockquote: false,
    code: false,
    codeBlock: false,
    strike: false,
    underline: false,
    trailingNode: false,
    listItem: false,
    heading: { levels: [1, 2, 3] },
    link: {
      openOnClick: false,
      autolink: false,
      linkOnPaste: true,
      protocols: ['http', 'https', 'mailto'],
      isAllowedUri: (address) => /^(https?|mailto):/i.test(address),
    },
  }),
  Node.create({
    name: 'listItem',
    content: 'block+',
    defining: true,
    parseHTML: () => [{ tag: 'li' }],
    renderHTML: ({ HTMLAttributes }) => ['li', HTMLAttributes, 0],
    addKeyboardShortcuts() {
      return {
        Enter: () => this.editor.commands.splitListItem(this.name),
        Tab: () => this.editor.commands.sinkListItem(this.name),
        'Shift-Tab': () => this.editor.commands.liftListItem(this.name),
      };
    },
  }),
  embedded,
  Mention,
  whole('unknownBlock', false, ['json']),
  whole('unknownInline', true, ['json']),
];
