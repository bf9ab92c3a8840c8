import type { ButtonHTMLAttributes } from 'react';

const looks = {
  plain: 'border border-line bg-case text-ink hover:bg-wash',
  main: 'border border-verdigris bg-verdigris text-on-verdigris hover:brightness-110',
  quiet: 'border border-transparent text-ink-soft hover:bg-wash hover:text-ink',
  danger: 'border border-oxblood text-oxblood hover:bg-oxblood hover:text-case',
};

/** A button; `main` is the one action of a view. */
export function Button({ look = 'plain', className = '', ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof looks }) {
  return (
    <button
      type="button"
      className={`inline-flex min-h-8 items-center gap-1.5 rounded-std px-3 py-1 text-[13px] font-medium transition-colors disabled:cursor-not-allowed disabled:opacity-50 ${looks[look]} ${className}`}
      {...rest}
    />
  );
}

/** A key, as it is written in hints. */
export function Key({ children }: { children: string }) {
  return <kbd className="rounded-[4px] border border-line bg-case px-1.5 font-use text-[11px] text-ink-soft">{children}</kbd>;
}
