import { Popover, RadioGroup } from 'radix-ui';
import { chosenByArrow } from '@/parts/chosenByArrow';
import { measures, numberings, sizes, spacings, usual, useTextLook, type Numbering, type TextLook } from './textLook';

const numberingWords: Record<Numbering, string> = { none: 'none', paragraphs: 'paragraphs', lines: 'lines' };

function Row<T extends string | number>({
  label,
  all,
  now,
  words,
  onChoose,
}: {
  label: string;
  all: readonly T[];
  now: T;
  words: (one: T, i: number) => string;
  onChoose: (one: T) => void;
}) {
  return (
    <RadioGroup.Root
      aria-label={label}
      orientation="horizontal"
      className="mb-2.5"
      value={String(now)}
      onValueChange={(chosen) => onChoose(all.find((one) => String(one) === chosen)!)}
    >
      <p className="mb-1 text-[12px] text-ink-soft">{label}</p>
      <div className="flex overflow-hidden rounded-std border border-line">
        {all.map((one, i) => (
          <RadioGroup.Item
            key={one}
            value={String(one)}
            onFocus={chosenByArrow(() => onChoose(one))}
            className={`min-h-7 flex-1 border-r -outline-offset-2 border-line text-[12px] last:border-r-0 ${one === now ? 'bg-wash font-semibold' : 'text-ink-soft hover:bg-wash'}`}
          >
            {words(one, i)}
          </RadioGroup.Item>
        ))}
      </div>
    </RadioGroup.Root>
  );
}

/** How the words are set: size, measure, spacing, numbers. */
export function TextLookChoice() {
  const [look, setLook] = useTextLook();
  const set = (part: Partial<TextLook>) => setLook({ ...look, ...part });
  return (
    <Popover.Root>
      <Popover.Trigger className="min-h-6 underline decoration-dotted underline-offset-4 hover:text-ink hover:decoration-solid">text</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={12}
          aria-label="How the words are set"
          className="z-40 w-[250px] animate-rise rounded-std border border-line bg-case p-3 shadow-float"
        >
          <Row label="Size" all={sizes} now={look.size} words={(_, i) => ['xs', 's', 'm', 'l', 'xl'][i]!} onChoose={(size) => set({ size })} />
          <Row
            label="Measure"
            all={measures}
            now={look.measure}
            words={(_, i) => ['narrow', 'usual', 'wide', 'widest'][i]!}
            onChoose={(measure) => set({ measure })}
          />
          <Row label="Spacing" all={spacings} now={look.spacing} words={(_, i) => ['close', 'usual', 'open'][i]!} onChoose={(spacing) => set({ spacing })} />
          <Row label="Numbers" all={numberings} now={look.numbers} words={(n) => numberingWords[n]} onChoose={(numbers) => set({ numbers })} />
          <button type="button" className="min-h-6 text-[12px] text-sky hover:underline" onClick={() => setLook(usual)}>
            As usual
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
