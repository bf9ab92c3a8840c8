import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { SecretLink } from '@/parts/SecretLink';
import { count, day } from '@/parts/words';

/** The secret links of an exhibit: make one, see it once, revoke it. */
export function ExhibitLinks({ exhibitId, links }: { exhibitId: number; links: readonly Schemas['ExhibitLink'][] }) {
  const [address, setAddress] = useState<string | null>(null);
  const publish = useWrite(() => ask(api.POST('/api/exhibits/{id}/links', { params: { path: { id: exhibitId } } })), { quiet: true });
  const revoke = useWrite((linkId: number) => ask(api.DELETE('/api/exhibits/{id}/links/{linkId}', { params: { path: { id: exhibitId, linkId } } })));
  const open = links.filter((l) => l.revokedAt === null);
  return (
    <section aria-label="Publishing" className="rounded-std border border-line bg-case p-4">
      <h2 className="font-semibold">{open.length > 0 ? `Published by ${count(open.length, 'link')}` : 'Not published'}</h2>
      <p className="mt-1 mb-3 text-[13px] text-ink-soft">
        Whoever has the link can read, without an account. The page follows your edits. Real names never appear on it.
      </p>
      <Button
        look={open.length > 0 ? 'plain' : 'main'}
        onClick={() => publish.mutate(undefined, { onSuccess: (made) => setAddress(`${location.origin}/read/${made.token}`) })}
      >
        {open.length > 0 ? 'Make another link' : 'Publish by a secret link'}
      </Button>
      {address && (
        <div className="mt-3 rounded-std bg-brass-wash p-3 text-[13px]">
          <p className="mb-1.5">This is the only time the link is shown; only its fingerprint is kept.</p>
          <SecretLink label="The link" address={address} />
          <a href={address} target="_blank" rel="noreferrer" className="mt-1 inline-flex min-h-8 items-center text-sky hover:underline">
            Open as a reader
          </a>
        </div>
      )}
      <ul className="mt-3">
        {links.map((link) => (
          <li key={link.id} className="flex items-center gap-2 border-t border-line py-1.5 text-[12.5px]">
            <span className={link.revokedAt ? 'text-ink-soft line-through' : ''}>
              {day(link.createdAt)}, {link.createdBy}
            </span>
            {link.revokedAt ? (
              <span className="ml-auto text-ink-soft">revoked</span>
            ) : (
              <button type="button" className="ml-auto min-h-6 text-oxblood hover:underline" onClick={() => revoke.mutate(link.id)}>
                Revoke
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
