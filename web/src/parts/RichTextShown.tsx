import { Fragment, type ReactNode } from 'react';
import { isEmbedded, type RichBlock, type RichInline, type RichText } from './richText';

interface Props {
  text: RichText;
  /** How a thing that stands in the text is shown; where it is left out, nothing of it is. */
  embedded?: (block: RichBlock) => ReactNode;
  className?: string;
}

/** A text in blocks as it is read. */
export function RichTextShown({ text, embedded, className = '' }: Props) {
  return (
    <div className={`rich-text ${className}`}>
      <Blocks of={text.blocks} embedded={embedded} />
    </div>
  );
}

function Blocks({ of, embedded }: { of: readonly RichBlock[]; embedded: Props['embedded'] }) {
  return of.map((block, i) => <Block key={i} of={block} embedded={embedded} />);
}

function Block({ of, embedded }: { of: RichBlock; embedded: Props['embedded'] }) {
  const words = <Inlines of={of.content ?? []} />;
  const items = () => of.items?.map((item, i) => <li key={i}>{<Blocks of={item as RichBlock[]} embedded={embedded} />}</li>);
  switch (of.type) {
    case 'paragraph':
      return <p>{words}</p>;
    case 'heading':
      return of.level === 1 ? <h3>{words}</h3> : of.level === 2 ? <h4>{words}</h4> : <h5>{words}</h5>;
    case 'bulletList':
      return <ul>{items()}</ul>;
    case 'orderedList':
      return <ol>{items()}</ol>;
    case 'rule':
      return <hr />;
    default:
      return isEmbedded(of) && embedded ? embedded(of) : null;
  }
}

function Inlines({ of }: { of: readonly RichInline[] }) {
  return of.map((part, i) => <Fragment key={i}>{inline(part)}</Fragment>);
}

function inline(part: RichInline): ReactNode {
  if (part.type === 'break') return <br />;
  if (part.type === 'mention') return <span className="mention">{part.title}</span>;
  if (part.type !== 'text') return null;
  let words: ReactNode = part.text;
  if (part.emphasis) words = <em>{words}</em>;
  if (part.strong) words = <strong>{words}</strong>;
  if (!part.link) return words;
  return (
    <a href={part.link} target="_blank" rel="noreferrer noopener" className="text-sky hover:underline">
      {words}
    </a>
  );
}
