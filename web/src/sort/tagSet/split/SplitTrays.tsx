import { X } from 'lucide-react';
import type { Schemas } from '@/api/client';
import { Key } from '@/parts/Button';
import { ActionKey } from '@/parts/actions/ActionButton';
import { noKey, type Action } from '@/parts/actions/actions';
import { splitting, type SplittingActs } from './actions';
import { hue, type TagLook } from '@/parts/tagLook';
import { inTray, type Split } from './split';
import { peeks, usePeeks } from './useSplit';

interface Props {
  studyId: number;
  split: Split;
  look: (id: number) => TagLook;
  /** Where the observation on the stand may belong. */
  hint: Schemas['HintedTray'] | null;
  /** Trays that the one on the stand is to go to, where it may go to several. */
  chosen: readonly number[];
  acts: SplittingActs;
  onRemove: (number: number) => void;
}

/** Colours of trays whose tags are not made yet: apart from each other. */
const colourOf = (tray: Split['trays'][number], look: (id: number) => TagLook) => (tray.tagId === null ? hue(tray.number * 5) : look(tray.tagId).colour);

/** The narrower tags, each a tray on a key with how many lie in it and what came last. */
export function SplitTrays({ studyId, split, look, hint, chosen, acts, onRemove }: Props) {
  const seen = new Map(usePeeks(studyId, split.wide.id, split).map((i) => [i.quote.observationId, i.quote]));
  const many = (outcome: string) => split.decisions.filter((d) => d.outcome === outcome).length;
  const other = (action: Action<SplittingActs>, says: string, number: number | null) => (
    <button type="button" className="flex min-h-7 items-center gap-2 text-[13px] text-ink-soft hover:text-ink" onClick={() => void action.run(acts, noKey)}>
      <ActionKey of={action} /> {says} {number !== null && <span className="font-semibold text-ink">{number}</span>}
    </button>
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_170px] gap-3">
      <ul
        aria-label="Trays"
        className="grid auto-rows-fr gap-3"
        style={{ gridTemplateColumns: `repeat(${Math.min(5, Math.max(1, split.trays.length))}, minmax(0, 1fr))` }}
      >
        {split.trays.map((tray) => {
          const inside = inTray(split, tray.number);
          const hinted = hint?.tray === tray.number;
          return (
            <li key={tray.number} className="group relative">
              <button
                type="button"
                aria-pressed={chosen.includes(tray.number)}
                className={`flex h-full min-h-[120px] w-full flex-col justify-start rounded-std border border-line border-t-[3px] px-3 py-2 text-left aria-pressed:bg-wash ${hinted ? 'bg-wash/60' : 'bg-case'} hover:bg-wash`}
                style={{ borderTopColor: colourOf(tray, look) }}
                onClick={() => acts.send(tray.number)}
              >
                <span className="flex items-center gap-2 text-[13px] font-semibold">
                  <Key>{`${tray.number}`}</Key>
                  <span className="min-w-0 flex-1 truncate" title={tray.name}>
                    {tray.name}
                  </span>
                  <span className="text-[15px]">{inside.length}</span>
                </span>
                {hinted && <span className="mt-1 block text-[12px] text-verdigris">its words: {hint.because.join(', ')}</span>}
                {inside.slice(0, peeks).map((id) => (
                  <span key={id} className="mt-1 line-clamp-2 font-read text-[13.5px] leading-[19px] text-ink-soft">
                    {seen.get(id)?.words || (seen.has(id) ? 'a part of a recording or picture' : '')}
                  </span>
                ))}
              </button>
              <button
                type="button"
                aria-label={`Remove the tray “${tray.name}”`}
                title="Remove the tray; what is in it is not decided any more"
                className="absolute right-1 bottom-1 grid size-6 place-items-center rounded-std text-ink-soft opacity-0 group-hover:opacity-100 hover:text-ink focus-visible:opacity-100"
                onClick={() => onRemove(tray.number)}
              >
                <X aria-hidden className="size-3.5" />
              </button>
            </li>
          );
        })}
        {split.trays.length === 0 && (
          <li className="rounded-std border border-line bg-case px-4 py-4 text-ink-soft">
            Put narrower tags on the keys 1 to 9 first: press <ActionKey of={splitting.actions.newTray} />, type their names with commas between, and Enter.
          </li>
        )}
      </ul>
      <div className="flex flex-col rounded-std border border-dashed border-line px-3 py-1.5">
        {other(splitting.actions.newTray, 'a new tray', null)}
        {other(splitting.actions.unsure, 'not sure', many('unsure'))}
        {other(splitting.actions.wide, 'stays wide', many('wide'))}
        {other(splitting.actions.back, 'back one', null)}
      </div>
    </div>
  );
}
