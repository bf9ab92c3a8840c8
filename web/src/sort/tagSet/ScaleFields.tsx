import type { Schemas } from '@/api/client';
import { TextField } from '@/parts/Field';

/** A scale as it is being typed. */
export type TypedScale = Record<'least' | 'most' | 'step' | 'unit' | 'lowLabel' | 'highLabel', string>;

export const typedScale = (scale: Schemas['Scale'] | null): TypedScale | null =>
  scale && { ...scale, least: String(scale.least), most: String(scale.most), step: String(scale.step) };

export const scaleOf = (typed: TypedScale | null): Schemas['Scale'] | null =>
  typed && { ...typed, least: number(typed.least), most: number(typed.most), step: number(typed.step) };

// What is no number is told by the server, with the rest of what makes a scale.
const number = (typed: string) => (typed.trim() === '' ? 0 : Number(typed.replace(',', '.')) || 0);

/** A tag's own measure: from, to, in steps of; what is counted and what the ends are called. */
export function ScaleFields({ scale, onScale }: { scale: TypedScale | null; onScale: (scale: TypedScale | null) => void }) {
  const field = (key: keyof TypedScale) => ({
    value: scale?.[key] ?? '',
    onChange: (e: { target: { value: string } }) => onScale({ ...scale!, [key]: e.target.value }),
  });
  return (
    <fieldset className="mb-3">
      <label className="mb-2 flex min-h-6 items-center gap-2 text-[13px] font-medium">
        <input
          type="checkbox"
          className="size-4 accent-verdigris"
          checked={scale !== null}
          onChange={(e) => onScale(e.target.checked ? { least: '1', most: '5', step: '1', unit: '', lowLabel: '', highLabel: '' } : null)}
        />
        It carries a scale: giving the tag asks for a value
      </label>
      {scale && (
        <div className="grid grid-cols-3 gap-x-3">
          <TextField label="From" inputMode="decimal" {...field('least')} />
          <TextField label="To" inputMode="decimal" {...field('most')} />
          <TextField label="In steps of" inputMode="decimal" {...field('step')} />
          <TextField label="Low end" placeholder="no effort" {...field('lowLabel')} />
          <TextField label="High end" placeholder="all their effort" {...field('highLabel')} />
          <TextField label="Unit" placeholder="minutes" {...field('unit')} />
        </div>
      )}
    </fieldset>
  );
}
