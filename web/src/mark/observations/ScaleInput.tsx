import { useState, type KeyboardEvent } from 'react';
import type { Schemas } from '@/api/client';
import { onScale, stepsOf } from '@/parts/scale';

interface Props {
  name: string;
  scale: Schemas['Scale'];
  value: number | undefined;
  /** It is asked for now: the keys go here. */
  asked: boolean;
  onValue: (value: number | null) => void;
  onDone: () => void;
}

/** With more steps than this a scale is typed, not picked. */
const mostPicked = 11;

/** The value of an observation on a tag's own scale. */
export function ScaleInput({ name, scale, value, asked, onValue, onDone }: Props) {
  const steps = stepsOf(scale);
  return (
    <div className="mt-3">
      <p className="mb-1 flex justify-between gap-2 text-[12px] text-ink-soft">
        <span className="font-medium text-ink">{name}</span>
        {scale.unit}
      </p>
      {steps.length <= mostPicked ? (
        <Picked name={name} steps={steps} value={value} asked={asked} onValue={onValue} onDone={onDone} />
      ) : (
        <Typed name={name} scale={scale} value={value} asked={asked} onValue={onValue} onDone={onDone} />
      )}
      <p className="mt-0.5 flex justify-between text-[11.5px] text-ink-soft">
        <span>{scale.lowLabel || scale.least}</span>
        <span>{scale.highLabel || scale.most}</span>
      </p>
    </div>
  );
}

function Picked({ name, steps, value, asked, onValue, onDone }: Omit<Props, 'scale'> & { steps: readonly number[] }) {
  const keys = (event: KeyboardEvent<HTMLDivElement>) => {
    const at = value === undefined ? -1 : steps.indexOf(value);
    const to = event.key === 'ArrowRight' || event.key === 'ArrowUp' ? at + 1 : event.key === 'ArrowLeft' || event.key === 'ArrowDown' ? at - 1 : null;
    const typed = steps.find((s) => String(s) === event.key);
    if (event.key === 'Enter') onDone();
    else if (to !== null) onValue(steps[Math.max(0, Math.min(steps.length - 1, to))]!);
    else if (typed !== undefined) onValue(typed);
    else if (event.key === 'Delete' || event.key === 'Backspace') onValue(null);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      role="slider"
      aria-label={name}
      aria-valuemin={steps[0]}
      aria-valuemax={steps.at(-1)}
      aria-valuenow={value}
      aria-valuetext={value === undefined ? 'no value' : String(value)}
      tabIndex={0}
      autoFocus={asked}
      ref={(box) => {
        if (asked) box?.focus();
      }}
      onKeyDown={keys}
      className="flex overflow-hidden rounded-std border border-line"
    >
      {steps.map((step) => (
        <span
          key={step}
          onClick={() => onValue(step === value ? null : step)}
          className={`flex min-h-7 flex-1 cursor-pointer items-center justify-center border-r border-line text-[12px] last:border-r-0 ${
            step === value ? 'bg-verdigris font-semibold text-on-verdigris' : 'hover:bg-wash'
          }`}
        >
          {step}
        </span>
      ))}
    </div>
  );
}

function Typed({ name, scale, value, asked, onValue, onDone }: Props) {
  const [typed, setTyped] = useState(value === undefined ? '' : String(value));
  const wrong = typed.trim() !== '' && !onScale(scale, Number(typed));
  const give = () => {
    if (!wrong) onValue(typed.trim() === '' ? null : Number(typed));
    return !wrong;
  };
  return (
    <>
      <input
        aria-label={name}
        inputMode="decimal"
        autoFocus={asked}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={give}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && give()) onDone();
        }}
        className="w-full rounded-std border border-line bg-case px-2 py-1"
      />
      {wrong && (
        <p role="alert" className="text-[12px] text-oxblood">
          From {scale.least} to {scale.most} in steps of {scale.step}.
        </p>
      )}
    </>
  );
}
