import type { Ref } from 'react';
import type { TextRange } from '@/mark/observations/place';
import { runsOf, type TurnShape } from './shape';

interface Props {
  ref: Ref<HTMLParagraphElement>;
  text: string;
  turn: TextRange;
  team: boolean;
  shape: TurnShape | undefined;
}

const headings = ['', 'text-[25px] leading-[32px] font-semibold', 'text-[21px] leading-[30px] font-semibold', 'text-[18px] leading-[28px] font-semibold'];

/** The words of one turn in the shape of its document. Nothing is in the element but its words; what only looks (a list's marker, a table's lines) is drawn beside. */
export function TurnWords({ ref, text, turn, team, shape }: Props) {
  const block = shape?.block;
  const runs = (of: TextRange) => {
    if (!shape || shape.emphases.length === 0) return text.slice(of.start, of.end);
    return runsOf(of, shape.emphases).map((run) => {
      const words = text.slice(run.start, run.end);
      const inside = run.italic ? <em key={run.start}>{words}</em> : words;
      return run.bold ? <strong key={run.start}>{inside}</strong> : inside;
    });
  };
  const look = block?.kind === 'heading' ? headings[Math.min(3, block.level)] : 'text-(length:--read-size) leading-(--read-line)';
  const common = {
    ref,
    'data-start': turn.start,
    dir: 'auto' as const,
    ...(block?.kind === 'heading' ? { role: 'heading', 'aria-level': block.level } : {}),
  };
  const base = `font-read wrap-anywhere whitespace-pre-wrap ${team ? 'text-ink-soft' : ''}`;
  if (block?.kind === 'tableRow' && block.cells && block.cells.length > 0)
    return (
      <p
        {...common}
        className={`${base} grid gap-x-4 border-b border-line pb-1 text-[15px] leading-[24px]`}
        style={{ gridTemplateColumns: `repeat(${shape!.columns}, minmax(0, 1fr))` }}
      >
        {block.cells.map((cell, i) => (
          <span key={cell.column} style={{ gridColumn: cell.column + 1 }}>
            {/* The tab between two cells belongs to the text. */}
            {runs({ start: i === 0 ? turn.start : cell.words.start, end: block.cells![i + 1]?.words.start ?? turn.end })}
          </span>
        ))}
      </p>
    );
  if (block?.kind === 'listItem')
    return (
      <div className="relative" style={{ paddingLeft: block.level * 22 }}>
        <span
          aria-hidden
          className="absolute font-read text-(length:--read-size) leading-(--read-line) text-ink-soft select-none"
          style={{ left: block.level * 22 - 20 }}
        >
          {block.marker}
        </span>
        <p {...common} className={`${base} ${look}`}>
          {runs(turn)}
        </p>
      </div>
    );
  return (
    <p {...common} className={`${base} ${look}`}>
      {runs(turn)}
    </p>
  );
}
