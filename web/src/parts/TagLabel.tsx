import type { ReactNode } from 'react';
import type { TagLook } from './tagLook';

/** The dot of a tag: filled when settled, a ring while it is a draft. A bundle has a ribbon. */
export function TagDot({ look }: { look: TagLook }) {
  if (look.bundle)
    return (
      <svg role="img" aria-label="Bundle" viewBox="0 0 12 8" className="inline-block h-2 w-3 shrink-0" style={{ fill: look.colour }}>
        <path d="M0 0h12L9.4 4 12 8H0z" />
      </svg>
    );
  return (
    <span
      aria-hidden
      className="inline-block size-2 shrink-0 rounded-full border-[1.5px]"
      style={{ borderColor: look.colour, background: look.draft ? 'transparent' : look.colour }}
    />
  );
}

/** A small label with a cut corner, as set beside an object in a case. */
export function TagLabel({ look, children }: { look: TagLook; children?: ReactNode }) {
  return (
    <span
      className="inline-flex max-w-full items-center gap-1.5 py-0.5 pr-2 pl-3 text-[12px] leading-5 text-ink"
      style={{
        clipPath: 'polygon(7px 0, 100% 0, 100% 100%, 7px 100%, 0 50%)',
        borderRadius: '0 4px 4px 0',
        background: `color-mix(in oklab, ${look.colour} 13%, var(--case))`,
      }}
    >
      <TagDot look={look} />
      <span className="truncate">{look.name}</span>
      {children}
    </span>
  );
}
