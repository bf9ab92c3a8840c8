import { Link } from '@tanstack/react-router';
import { Popover } from 'radix-ui';
import { outgoing } from '@/api/waiting/outgoing';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import { TwoVersions } from '@/shared/TwoVersions';
import { count } from '@/parts/words';

const link = 'min-h-6 font-semibold text-sky underline-offset-2 hover:underline';

/** Says when the way to the server is not open, and what waits in the browser; nothing while all is well. */
export function WayLine() {
  const { waiting, way } = useOutgoing();
  const clashes = waiting.filter((w) => w.clash);
  const unsent = waiting.filter((w) => !w.clash && outgoing.isKept(w));
  if (way === 'open' && clashes.length === 0) return null;
  return (
    <div role="status" className="flex min-h-8 shrink-0 flex-wrap items-center gap-x-4 border-t border-brass bg-brass-wash px-5 py-1 text-[13px]">
      {way === 'cut' && (
        <span>
          The server cannot be reached. {unsent.length === 0 ? 'Go on: what you mark and write is kept in this browser and sent when it is back.' : null}
        </span>
      )}
      {way === 'signed out' && <span>You have been signed out. </span>}
      {way !== 'open' && unsent.length > 0 && <span>{count(unsent.length, 'step')} kept in this browser; sent when it is back.</span>}
      {way === 'cut' && (
        <button type="button" className={link} onClick={() => outgoing.tryNow()}>
          Try now
        </button>
      )}
      {way === 'signed out' && (
        <Link to="/sign-in" className={link}>
          Sign in again
        </Link>
      )}
      {waiting.length > 0 && (
        <Popover.Root>
          <Popover.Trigger className={link}>{clashes.length > 0 ? `${count(clashes.length, 'text')} to choose a version of` : 'What waits'}</Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="start"
              collisionPadding={16}
              aria-label="What waits in this browser"
              className="z-40 max-h-[70vh] w-[640px] overflow-y-auto rounded-std border border-line bg-case p-4 text-[13px] shadow-float"
            >
              <ul className="space-y-3">
                {waiting.map((write) => (
                  <li key={write.key}>
                    <div className="flex items-baseline gap-3">
                      <span className="min-w-0 flex-1">{write.what}</span>
                      {!write.clash && (
                        <button type="button" className="min-h-6 text-ink-soft hover:text-oxblood" onClick={() => void outgoing.drop(write.order)}>
                          Do not send
                        </button>
                      )}
                    </div>
                    {write.clash && <TwoVersions of={write} />}
                  </li>
                ))}
              </ul>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </div>
  );
}
