import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { StanceEdge } from '@/parts/StanceEdge';
import { stanceWords } from '@/parts/words';
import { lassoOf } from './chosen';

/** A piece of a theme that has the focus. */
export interface PieceAt {
  themeId: number;
  observationId: number;
  laid: boolean;
  choose?: (() => void) | undefined;
}

interface Props {
  themeId: number;
  piece: Schemas['ThemeQuote'];
  onFocus: (at: PieceAt | null) => void;
  onTakeOut: () => void;
  /** Whether it is chosen, where pieces can be. */
  chosen?: boolean;
  onChoose?: () => void;
  className?: string;
  children: ReactNode;
}

/** A piece of a theme: what it is at its edge, its words; keys say otherwise while it has the focus. */
export function Piece({ themeId, piece, onFocus, onTakeOut, chosen = false, onChoose, className = '', children }: Props) {
  const { observationId } = piece.quote;
  return (
    <div
      data-piece
      data-lasso={onChoose && lassoOf.piece({ themeId, observationId })}
      tabIndex={0}
      role="group"
      aria-label={`${stanceWords[piece.stance]}: ${piece.quote.words.slice(0, 80)}`}
      onFocus={(e) => e.target === e.currentTarget && onFocus({ themeId, observationId, laid: piece.laid, choose: onChoose })}
      onBlur={() => onFocus(null)}
      className={`group relative rounded-std border bg-case pl-6 ${chosen ? 'border-verdigris outline-1 outline-verdigris' : 'border-line'} ${className}`}
    >
      <StanceEdge stance={piece.stance} />
      {onChoose && (
        <input
          type="checkbox"
          tabIndex={-1}
          aria-label={`Choose “${piece.quote.words.slice(0, 60)}”`}
          checked={chosen}
          onChange={onChoose}
          className={`absolute right-2 bottom-1.5 size-4 accent-verdigris ${chosen ? '' : 'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100'}`}
        />
      )}
      {children}
      {piece.laid && (
        <button
          type="button"
          aria-label="Remove this observation from the theme"
          tabIndex={-1}
          className="absolute top-1 right-1 grid size-6 place-items-center text-ink-soft opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 hover:text-oxblood"
          onClick={onTakeOut}
        >
          <X className="size-3.5" />
        </button>
      )}
    </div>
  );
}
