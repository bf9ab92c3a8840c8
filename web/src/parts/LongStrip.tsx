import type { CSSProperties } from 'react';

interface Props {
  /** What each person shows: nothing, not asked, or a colour of evidence. */
  cells: readonly { own: number; against: number; asked: boolean }[];
  at: number | null;
  large: boolean;
  depth: (n: number) => string;
}

/** So many people that cells would be too small to see: the strip keeps its order and becomes one case of fixed width, with a stripe for everyone who says something. */
export function LongStrip({ cells, at, large, depth }: Props) {
  const [width, height] = large ? [264, 17] : [84, 12];
  const step = width / cells.length;
  const stripe = Math.max(1.5, step);
  const styleOf = (fill: string): CSSProperties => ({ fill });
  return (
    <svg aria-hidden width={width} height={height} viewBox={`0 0 ${width} ${height}`} className="shrink-0">
      <rect
        x={0.5}
        y={0.5}
        width={width - 1}
        height={height - 1}
        rx={2}
        style={{ fill: 'transparent', stroke: 'color-mix(in oklab, var(--ink-soft) 45%, var(--paper))' }}
      />
      {cells.map(({ own, against, asked }, i) => {
        const x = Math.min(width - stripe, i * step);
        if (!asked || (own === 0 && against === 0)) return null;
        return (
          <g key={i}>
            <rect x={x} y={0} width={stripe} height={height} style={styleOf(against > 0 && own === 0 ? 'var(--oxblood)' : depth(own))} />
            {against > 0 && own > 0 && <rect x={x} y={height / 2} width={stripe} height={height / 2} style={styleOf('var(--oxblood)')} />}
          </g>
        );
      })}
      {at !== null && (
        <rect
          x={Math.min(width - 4, Math.max(0, at * step - 1))}
          y={0}
          width={4}
          height={height}
          style={{ fill: 'none', stroke: 'var(--verdigris)', strokeWidth: 1.5 }}
        />
      )}
    </svg>
  );
}
