import { useId, type InputHTMLAttributes, type ReactNode, type SelectHTMLAttributes, type TextareaHTMLAttributes } from 'react';

const box = 'w-full rounded-std border border-line bg-case px-3 py-1.5 text-ink placeholder:text-ink-soft/80';

function Labelled({ id, label, hint, children }: { id: string; label: string; hint?: string | undefined; children: ReactNode }) {
  return (
    <div className="mb-3.5">
      <label htmlFor={id} className="mb-1 block text-[13px] font-medium">
        {label}
      </label>
      {children}
      {hint && <p className="mt-1 text-[12.5px] text-ink-soft">{hint}</p>}
    </div>
  );
}

type Common = { label: string; hint?: string };

export function TextField({ label, hint, ...rest }: Common & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint}>
      <input id={id} className={box} {...rest} />
    </Labelled>
  );
}

/** A password that is being chosen. */
export function NewPasswordField(rest: Common & InputHTMLAttributes<HTMLInputElement>) {
  return <TextField type="password" autoComplete="new-password" hint="At least 10 characters; a few words in a row are easy to remember." {...rest} />;
}

export function TextArea({ label, hint, ...rest }: Common & TextareaHTMLAttributes<HTMLTextAreaElement>) {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint}>
      <textarea id={id} className={`${box} resize-y`} {...rest} />
    </Labelled>
  );
}

export function Choice({ label, hint, children, ...rest }: Common & SelectHTMLAttributes<HTMLSelectElement>) {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint}>
      <select id={id} className={box} {...rest}>
        {children}
      </select>
    </Labelled>
  );
}

/** What the server refused, beside the form it is about. */
export function Problem({ of }: { of: Error | null }) {
  return of ? (
    <p role="alert" className="mb-3 rounded-std border border-oxblood bg-case px-3 py-2 text-oxblood">
      {of.message}
    </p>
  ) : null;
}
