import { useDraggable } from '@dnd-kit/core';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { LongList } from '@/parts/LongList';
import { QuoteWords } from '@/parts/QuoteWords';
import { clock } from '@/parts/words';
import { asQuery } from '@/shared/filter/where';
import { useWhere } from '@/shared/filter/useWhere';
import { usePieceQuotes } from '@/shared/useQuotes';
import { holds, type Chosen, type PieceIn } from './chosen';
import { useOthersInHand } from '@/shared/inHand';
import { InHandOf, New } from './New';
import { Piece } from './Piece';
import type { usePieces } from './usePieces';

interface Props {
  studyId: number;
  view: Schemas['ThemeView'];
  /** Whether all are shown, instead of a few. */
  all: boolean;
  who: (id: number | null) => string;
  pieces: ReturnType<typeof usePieces>;
  chosen: Chosen;
  onChoose: (piece: PieceIn) => void;
}

/** The pieces on a card: a few, or all of them as far as one scrolls. */
export function CardPieces({ all, ...rest }: Props) {
  return all ? (
    <AllPieces {...rest} />
  ) : (
    rest.view.quotes.map((piece) => <CardPiece key={piece.quote.observationId} {...rest} piece={piece} className="mt-2" />)
  );
}

function AllPieces(props: Omit<Props, 'all'>) {
  const { where } = useWhere();
  const { theme } = props.view;
  const { quotes, total, more } = usePieceQuotes(queries.themePieces(props.studyId, theme.id, { beside: true, ...asQuery(where) }));
  return (
    <LongList
      label={`Pieces of ${theme.title}`}
      items={quotes}
      keyOf={(p) => p.quote.observationId}
      height={74}
      gap={6}
      total={total ?? 0}
      onNearEnd={more}
      className="mt-2 max-h-[420px] p-px"
    >
      {(piece) => <CardPiece {...props} piece={piece} />}
    </LongList>
  );
}

type OneProps = Omit<Props, 'all' | 'studyId'> & { piece: Schemas['ThemeQuote']; className?: string };

/** A piece that can be chosen, and dragged with the others that are. */
function CardPiece({ view, piece, who, pieces, chosen, onChoose, className = '' }: OneProps) {
  const { observationId, participantId, atMs } = piece.quote;
  const at = { themeId: view.theme.id, observationId };
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `p${at.themeId}-${observationId}`, data: { piece: at } });
  return (
    <div ref={setNodeRef} {...listeners} className={`cursor-grab ${className} ${isDragging ? 'opacity-40' : ''}`}>
      <Piece
        themeId={at.themeId}
        piece={piece}
        onFocus={pieces.onFocus}
        onTakeOut={() => pieces.takeOut.mutate({ themeId: at.themeId, observationIds: [observationId], tagIds: [] })}
        chosen={holds(chosen, at)}
        onChoose={() => onChoose(at)}
        className="py-1.5 pr-3"
      >
        <p className="line-clamp-3 font-read text-[14.5px] leading-[1.45]">
          <QuoteWords quote={piece.quote} />
        </p>
        <p className="mt-0.5 text-[11.5px] text-ink-soft">
          {who(participantId)}
          {atMs !== null && `, ${clock(atMs)}`} {piece.isNew && <New />} <InHandOf name={useOthersInHand().get(observationId)} />
        </p>
      </Piece>
    </div>
  );
}
