import { Button } from './Button';

interface Props {
  /** A text of a form: as it was when the form was opened, as it stands now, and as it is in the form. */
  texts: readonly { label: string; was: string; now: string; mine: string; take: (theirs: string) => void }[];
}

/** In a form: what someone else has written since it was opened, beside what is being written here. Saving keeps what is in the form. */
export function ChangedMeanwhile({ texts }: Props) {
  const changed = texts.filter((t) => t.now !== t.was && t.now !== t.mine);
  if (changed.length === 0) return null;
  return (
    <section aria-label="Two versions" role="alert" className="mb-4 rounded-std border border-brass bg-brass-wash p-3 text-[13px]">
      <p className="mb-2">Someone else has changed this since you opened it. Saving keeps what you have below.</p>
      {changed.map((text) => (
        <div key={text.label} className="mb-2 grid grid-cols-2 gap-3 last:mb-0">
          <div className="rounded-std border border-line bg-case p-2.5">
            <h3 className="text-[12px] font-semibold text-ink-soft">{text.label}, as it stands now</h3>
            <p className="mt-1 mb-2 whitespace-pre-wrap">{text.now || '(empty)'}</p>
            <Button onClick={() => text.take(text.now)}>Take theirs</Button>
          </div>
          <div className="rounded-std border border-line bg-case p-2.5">
            <h3 className="text-[12px] font-semibold text-ink-soft">{text.label}, as you have it</h3>
            <p className="mt-1 whitespace-pre-wrap">{text.mine || '(empty)'}</p>
          </div>
        </div>
      ))}
    </section>
  );
}
