import type { Schemas } from '@/api/client';

type Scale = Schemas['Scale'];

const close = 1e-6;

/** A number without the dust of binary fractions. */
const tidy = (value: number) => Number(value.toFixed(6));

/** Every value of a scale, from the least. */
export const stepsOf = ({ least, most, step }: Scale): number[] =>
  Array.from({ length: Math.floor((most - least) / step + close) + 1 }, (_, i) => tidy(least + i * step));

/** Whether a value is one of the scale's; as the server sees it. */
export function onScale({ least, most, step }: Scale, value: number): boolean {
  const steps = (value - least) / step;
  return value >= least - close && value <= most + close && Math.abs(steps - Math.round(steps)) < close;
}
