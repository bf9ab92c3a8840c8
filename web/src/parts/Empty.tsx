import type { ReactNode } from 'react';

/** An empty place that teaches: what belongs here, why, a line of sample, and the one action to begin. */
export function Empty({ title, sample, children, action }: { title: string; sample?: string; children: ReactNode; action?: ReactNode }) {
  return (
    <div className="mx-auto max-w-[520px] px-6 py-14 text-center">
      <h2 className="font-read text-xl font-semibold">{title}</h2>
      <p className="mt-2 text-ink-soft">{children}</p>
      {sample && <p className="mt-4 font-read text-[15px] text-ink-soft italic">{sample}</p>}
      {action && <div className="mt-5 flex justify-center gap-2">{action}</div>}
    </div>
  );
}

/** Waiting and failing, said in one line. */
export function Waiting({ problem }: { problem?: Error | null | undefined }) {
  return (
    <p role={problem ? 'alert' : 'status'} className={`px-6 py-10 ${problem ? 'text-oxblood' : 'text-ink-soft'}`}>
      {problem?.message ?? 'Fetching …'}
    </p>
  );
}
