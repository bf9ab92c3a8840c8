import { lazy, Suspense, useState, type ReactNode, type Ref } from 'react';
import { outgoing } from '@/api/waiting/outgoing';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import type { TextAddress } from '@/api/waiting/writeTo';
import { readText, type RichBlock, type RichText } from '@/parts/richText';
import { RichTextShown } from '@/parts/RichTextShown';
import { TwoVersions } from '../TwoVersions';
import type { EditorHandle } from './RichTextEditor';

// The editor is large, and fetched where a text is written.
const RichTextEditor = lazy(() => import('./RichTextEditor').then((m) => ({ default: m.RichTextEditor })));

interface Props {
  label: string;
  /** What the server has. */
  value: RichText;
  /** Where it is saved: the address of this one text. */
  path: TextAddress;
  /** What it is, in words, for the list of what waits. */
  what: string;
  placeholder: string;
  className: string;
  embedded: (block: RichBlock) => ReactNode;
  handle?: Ref<EditorHandle>;
}

const pause = 900;

/** A text in blocks that saves itself when the writing pauses or ends, as `AutoText` does. */
export function AutoRichText({ label, value, path, what, placeholder, className, embedded, handle = null }: Props) {
  const { waiting, way } = useOutgoing();
  const [written, setWritten] = useState(false);
  const mine = waiting.findLast((w) => w.field === path);
  const clash = waiting.find((w) => w.field === path && w.clash);
  const stands = JSON.stringify(value);
  const text = (mine?.text && readText(mine.text.now)) ?? value;
  const take = (now: string, after: number) => void outgoing.type(path, path, what, stands, now, after, 'rich');
  const state = clash ? '' : !mine ? (written ? 'saved' : '') : way === 'open' ? 'saving …' : 'kept in this browser, not sent yet';
  return (
    <div className="relative">
      <Suspense fallback={<RichTextShown text={text} embedded={embedded} className={className} />}>
        <RichTextEditor
          label={label}
          value={text}
          placeholder={placeholder}
          className={className}
          embedded={embedded}
          handle={handle}
          onChange={(now) => {
            setWritten(true);
            take(JSON.stringify(now), pause);
          }}
          onBlur={() => {
            if (mine?.text && !clash && mine.notBefore > Date.now()) take(mine.text.now, 0);
          }}
        />
      </Suspense>
      <span role="status" className={`absolute right-0 -bottom-5 text-[11px] ${mine && way !== 'open' ? 'text-brass' : 'text-ink-soft'}`}>
        {state}
      </span>
      {clash && <TwoVersions of={clash} embedded={embedded} />}
    </div>
  );
}
