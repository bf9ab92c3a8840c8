import { memo, useMemo, type MouseEvent } from 'react';
import type { ShownWords } from '@/mark/observations/writes';
import { count } from '@/parts/words';
import { ticksOf } from './overview';

interface Props {
  length: number;
  marks: readonly ShownWords[];
  colourOf: (tagId: number) => string;
  /** How far one has read; null for not at all. */
  furthest: number | null;
  /** What is in view. */
  from: number;
  to: number;
  onGo: (position: number) => void;
}

const percent = (of: number) => `${Math.min(1, Math.max(0, of)) * 100}%`;

const ticksWide = 14;

/** The marks do not change while the reader scrolls. Ticks of one colour are one line of the drawing, so that hundreds of them cost the page a dozen elements. */
const Ticks = memo(function Ticks({ length, marks, colourOf }: Pick<Props, 'length' | 'marks' | 'colourOf'>) {
  const lines = useMemo(() => {
    const byColour = new Map<string, string>();
    for (const { at, count: marked, colour } of ticksOf(marks, length, colourOf)) {
      const wide = Math.min(ticksWide, 6 + 2 * marked);
      byColour.set(colour, `${byColour.get(colour) ?? ''}M${ticksWide - wide} ${(at * 100).toFixed(2)}h${wide}`);
    }
    return [...byColour];
  }, [marks, length, colourOf]);
  return (
    <svg className="absolute right-0 h-full overflow-visible" width={ticksWide} viewBox={`0 0 ${ticksWide} 100`} preserveAspectRatio="none" fill="none">
      {lines.map(([colour, path]) => (
        <path key={colour} d={path} style={{ stroke: colour }} strokeWidth={2} vectorEffect="non-scaling-stroke" />
      ))}
    </svg>
  );
});

/** A ruler of the whole source beside the text: where its marks are, what is in view, and how far one has read. A click goes there; keys go from mark to mark. */
export function Overview({ length, marks, colourOf, furthest, from, to, onGo }: Props) {
  const go = (event: MouseEvent<HTMLDivElement>) => {
    const { top, height } = event.currentTarget.getBoundingClientRect();
    onGo(Math.round(((event.clientY - top) / height) * length));
  };
  return (
    <div
      aria-hidden
      data-testid="overview"
      title={`${count(marks.length, 'mark')} in the whole source`}
      onClick={go}
      className="absolute inset-y-2 right-3.5 z-10 w-4 cursor-pointer border-r border-line"
    >
      <span
        className="absolute right-[-2px] w-[3px] bg-ink-soft/40"
        style={{ top: percent(from / length), height: percent((to - from) / length), minHeight: 6 }}
      />
      <Ticks length={length} marks={marks} colourOf={colourOf} />
      {furthest !== null && (
        <span
          className="absolute right-[-5px] size-0 border-y-4 border-r-[6px] border-y-transparent border-r-brass"
          style={{ top: `calc(${percent(furthest / length)} - 4px)` }}
        />
      )}
    </div>
  );
}
