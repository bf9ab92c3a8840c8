import { RadioGroup } from 'radix-ui';
import type { Schemas } from '@/api/client';
import { chosenByArrow } from '@/parts/chosenByArrow';
import { agreedByWords } from '@/parts/words';

type AgreedBy = NonNullable<Schemas['AgreedBy']>;

const ways = Object.keys(agreedByWords) as AgreedBy[];

interface Props {
  /** How they have agreed; null while no answer is noted. */
  by: AgreedBy | null;
  onBy: (by: AgreedBy | null) => void;
}

/** Asked once of people who come in together: whether they have agreed to their words being published. */
export function AgreedChoice({ by, onBy }: Props) {
  return (
    <RadioGroup.Root
      aria-label="Have they agreed to their words being published?"
      value={by ?? 'no'}
      onValueChange={(way) => onBy(way === 'no' ? null : (way as AgreedBy))}
      className="mb-4 text-[13px]"
    >
      <p className="mb-1 font-medium">Have they agreed to their words being published?</p>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {(['no', ...ways] as const).map((way) => (
          <label key={way} className="flex min-h-6 items-center gap-1.5">
            <RadioGroup.Item
              onFocus={chosenByArrow(() => onBy(way === 'no' ? null : way))}
              value={way}
              className="grid size-4 place-items-center rounded-full border border-ink-soft bg-case data-[state=checked]:border-verdigris"
            >
              <RadioGroup.Indicator className="size-2 rounded-full bg-verdigris" />
            </RadioGroup.Item>
            {way === 'no' ? 'no answer yet' : agreedByWords[way]}
          </label>
        ))}
      </div>
      {by === null && <p className="mt-1 text-[12.5px] text-ink-soft">Until their answer is noted, nothing of theirs is published.</p>}
    </RadioGroup.Root>
  );
}
