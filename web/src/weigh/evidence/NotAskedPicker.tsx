import { AskedBoxes, type Asked } from '@/shared/WhoWasAsked';

/** Who was not asked: out of the denominator, dotted in the strip. */
export function NotAskedPicker(of: Asked) {
  return (
    <details className="mt-1.5 text-[12.5px]">
      <summary className="cursor-pointer text-sky">{of.notAsked.length === 0 ? 'Everyone was asked' : `${of.notAsked.length} not asked`}: change</summary>
      <fieldset className="mt-1 grid grid-cols-2 gap-x-3 rounded-std border border-line p-2">
        <legend className="px-1 text-ink-soft">Untick who was not asked</legend>
        <AskedBoxes {...of} />
      </fieldset>
    </details>
  );
}
