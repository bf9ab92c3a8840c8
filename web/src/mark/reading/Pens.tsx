import { X } from 'lucide-react';
import { Key } from '@/parts/Button';
import { TagDot } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { useOnRelease, usePens, type OnRelease } from './usePens';

const onReleaseWords: Record<OnRelease, string> = { line: 'asks for tags', pen: 'marks with the last pen', nothing: 'only selects' };

/** The pens: tags on the keys 1 to 9, and what a release of the mouse does. */
export function Pens({ studyId, look }: { studyId: number; look: (id: number) => TagLook }) {
  const { pens, set } = usePens(studyId);
  const [onRelease, setOnRelease] = useOnRelease();
  return (
    <section aria-label="Pens" className="mb-4 border-b border-line pb-3">
      <h2 className="mb-0.5 font-semibold">Pens</h2>
      {pens.length === 0 ? (
        <p className="text-[12px] text-ink-soft">
          Point at a tag below and press <Key>1</Key> to <Key>9</Key>: that key then marks with it.
        </p>
      ) : (
        <ul>
          {pens.map((pen) => (
            <li key={pen.number} className="flex min-h-7 items-center gap-2">
              <Key>{String(pen.number)}</Key>
              <TagDot look={look(pen.tagId)} />
              <span className="min-w-0 flex-1 truncate">{look(pen.tagId).name}</span>
              <button
                type="button"
                aria-label={`Remove “${look(pen.tagId).name}” from pen ${pen.number}`}
                className="grid size-6 place-items-center text-ink-soft hover:text-oxblood"
                onClick={() => set({ number: pen.number, tagId: null })}
              >
                <X aria-hidden className="size-3" />
              </button>
            </li>
          ))}
        </ul>
      )}
      <label className="mt-1 flex min-h-7 items-center gap-2 text-[12px] text-ink-soft">
        A selection
        <select
          value={onRelease}
          onChange={(e) => setOnRelease(e.target.value as OnRelease)}
          className="min-h-6 min-w-0 flex-1 rounded-std border border-line bg-case px-1"
        >
          {(Object.keys(onReleaseWords) as OnRelease[]).map((c) => (
            <option key={c} value={c}>
              {onReleaseWords[c]}
            </option>
          ))}
        </select>
      </label>
    </section>
  );
}
