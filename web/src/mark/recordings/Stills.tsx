import { Link } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { momentIn } from './view';

/** The stills of a film, by their moments; each is a picture of its own. */
export function Stills({ studyId, stills, onSeek }: { studyId: number; stills: readonly Schemas['SourceLine'][]; onSeek: (ms: number) => void }) {
  if (stills.length === 0) return null;
  return (
    <ul aria-label="Stills" className="flex gap-3 overflow-x-auto px-5 py-2">
      {stills.map((still) => (
        <li key={still.id} className="shrink-0 text-[12px]">
          <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: still.id }} title={`Open ${still.title}`}>
            <img src={`/api/sources/${still.id}/media`} alt={still.title} className="h-14 rounded-[4px] border border-line" />
          </Link>
          <button type="button" className="min-h-6 text-sky tabular-nums hover:underline" onClick={() => onSeek(still.stillAtMs ?? 0)}>
            {momentIn(still.stillAtMs ?? 0)}
          </button>
        </li>
      ))}
    </ul>
  );
}
