import { differing } from './differing';

interface Props {
  old: string;
  now: string;
  /** The old words are not in the text any more. */
  gone: boolean;
}

/** An observation's words before and after a correction, one under the other; what differs stands out by more than its colour. */
export function OldAndNew({ old, now, gone }: Props) {
  const parts = differing(old, gone ? '' : now);
  return (
    <dl className="grid grid-cols-[64px_1fr] gap-x-3 gap-y-1 font-read text-[15.5px] leading-[1.5]">
      <dt className="pt-0.5 font-use text-[12px] text-ink-soft">was</dt>
      <dd className="wrap-anywhere whitespace-pre-line text-ink-soft">
        {parts.old[0]}
        {parts.old[1] && <del className="decoration-oxblood">{parts.old[1]}</del>}
        {parts.old[2]}
      </dd>
      <dt className="pt-0.5 font-use text-[12px] text-ink-soft">now</dt>
      <dd className="wrap-anywhere whitespace-pre-line">
        {gone ? (
          <span className="font-use text-[13px] text-brass">not in the text any more</span>
        ) : (
          <>
            {parts.now[0]}
            {parts.now[1] && <ins className="decoration-verdigris decoration-2">{parts.now[1]}</ins>}
            {parts.now[2]}
          </>
        )}
      </dd>
    </dl>
  );
}
