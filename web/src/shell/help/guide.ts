import { Marked } from 'marked';

const texts = import.meta.glob<string>('../../../../docs/guide/*.md', { query: '?raw', import: 'default', eager: true });
const pictures = import.meta.glob<string>('../../../../docs/screenshots/{gather,mark,sort,weigh,insight,exhibit}.png', {
  query: '?url',
  import: 'default',
  eager: true,
});

/** In which order one reads them. */
const order = [
  'first-ten-minutes',
  'bringing-material-in',
  'reading-and-marking',
  'recordings-and-pictures',
  'finding',
  'tag-set',
  'sorting',
  'weighing-and-showing',
] as const;
export type GuideName = (typeof order)[number];
export const isGuideName = (name: string): name is GuideName => (order as readonly string[]).includes(name);

const nameOf = (path: string) => path.slice(path.lastIndexOf('/') + 1).replace(/\.[a-z]+$/, '');
const textOf = new Map(Object.entries(texts).map(([path, text]) => [nameOf(path), text]));
const pictureOf = new Map(Object.entries(pictures).map(([path, url]) => [nameOf(path), url]));

const marked = new Marked({
  renderer: {
    // A page of the guide is one of the application; anything else is named, not linked.
    link({ href, tokens }) {
      const words = this.parser.parseInline(tokens);
      return href.endsWith('.md') ? `<a href="/help/${nameOf(href)}">${words}</a>` : words;
    },
    image({ href, text }) {
      const url = pictureOf.get(nameOf(href));
      return url ? `<img src="${url}" alt="${text}" loading="lazy">` : text;
    },
    // Keys of the keyboard, and what is typed.
    codespan: ({ text }) => `<kbd>${text}</kbd>`,
  },
});

export interface GuidePage {
  name: GuideName;
  title: string;
  text: string;
}

/** The pages of the guide: they come with the application, and need no network. */
export const guide: readonly GuidePage[] = order.map((name) => {
  const text = textOf.get(name) ?? '';
  return { name, text, title: /^# (.+)$/m.exec(text)?.[1] ?? name };
});

/** A page as it is shown. What it is made of is the guide's own text, and nobody else's. */
export const htmlOf = (page: GuidePage): string => marked.parse(page.text, { async: false });
