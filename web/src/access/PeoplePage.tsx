import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { day, roleWords, roles } from '@/parts/words';
import { InviteDialog } from './InviteDialog';

/** Who works here. The steward invites, changes roles, and closes accounts. */
export function PeoplePage() {
  const { data: accounts, error } = useQuery(queries.accounts());
  const me = useQuery(queries.me()).data?.account;
  const steward = me?.role === 'steward';
  const invitations = useQuery({ ...queries.invitations(), enabled: steward }).data ?? [];
  const cache = useQueryClient();
  const [inviting, setInviting] = useState(false);
  if (!accounts) return <Waiting problem={error} />;
  const run = (request: Promise<unknown>, said: string) =>
    void request
      .then(() => toast(said))
      .catch((problem: Error) => toast.error(problem.message))
      .then(() => cache.invalidateQueries());
  const change = (account: Schemas['Account'], role: Schemas['Role'], closed: boolean) =>
    run(
      ask(api.PUT('/api/accounts/{accountId}', { params: { path: { accountId: account.id } }, body: { role, closed } })),
      closed ? `${account.name}’s account is closed.` : `${account.name} is ${roleWords[role].one} now.`,
    );
  return (
    <main className="h-full overflow-y-auto border-t border-line">
      <div className="mx-auto max-w-[940px] px-6 py-8">
        <div className="mb-5 flex items-center">
          <h1 className="font-read text-3xl font-semibold">People</h1>
          {steward && (
            <Button look="main" className="ml-auto" onClick={() => setInviting(true)}>
              Invite someone
            </Button>
          )}
        </div>
        <table className="w-full">
          <caption className="sr-only">Accounts of this workspace</caption>
          <thead>
            <tr className="text-left text-[12.5px] text-ink-soft">
              <th className="py-1 pr-4 font-medium">Name</th>
              <th className="py-1 pr-4 font-medium">E-mail address</th>
              <th className="py-1 pr-4 font-medium">Role</th>
              <th className="py-1">
                <span className="sr-only">Close or open</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {accounts.map((account) => (
              <tr key={account.id} className={`border-t border-line ${account.closed ? 'text-ink-soft' : ''}`}>
                <td className="py-2 pr-4 font-medium">
                  {account.name}
                  {account.id === me?.id && <span className="font-normal text-ink-soft"> (you)</span>}
                </td>
                <td className="py-2 pr-4 text-ink-soft">{account.email}</td>
                <td className="w-[190px] py-2 pr-4">
                  {steward ? (
                    <select
                      aria-label={`Role of ${account.name}`}
                      value={account.role}
                      onChange={(e) => change(account, e.target.value as Schemas['Role'], account.closed)}
                      className="min-h-8 w-full rounded-std border border-line bg-case px-2"
                    >
                      {roles.map((role) => (
                        <option key={role} value={role}>
                          {roleWords[role].one}
                        </option>
                      ))}
                    </select>
                  ) : (
                    roleWords[account.role].one
                  )}
                </td>
                <td className="w-[140px] py-2 text-right">
                  {account.closed && !steward && 'closed'}
                  {steward && account.id !== me.id && (
                    <Button
                      look="quiet"
                      aria-label={`${account.closed ? 'Open' : 'Close'} ${account.name}’s account`}
                      onClick={() => change(account, account.role, !account.closed)}
                    >
                      {account.closed ? 'Open again' : 'Close account'}
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <dl className="mt-6 grid max-w-[620px] grid-cols-[110px_1fr] gap-y-1 text-[13px] text-ink-soft">
          {roles.map((role) => (
            <div key={role} className="contents">
              <dt className="font-medium text-ink">{roleWords[role].one}</dt>
              <dd>{roleWords[role].may}</dd>
            </div>
          ))}
        </dl>
        {invitations.length > 0 && (
          <section aria-label="Open invitations" className="mt-8">
            <h2 className="mb-1 text-[13px] font-semibold text-ink-soft">Invited, not here yet</h2>
            <ul>
              {invitations.map((invitation) => (
                <li key={invitation.id} className="flex items-center gap-4 border-t border-line py-1.5">
                  <span className="font-medium">{invitation.name}</span>
                  <span className="text-ink-soft">{invitation.email}</span>
                  <span className="text-ink-soft">{roleWords[invitation.role].one}</span>
                  <span className="ml-auto text-[12.5px] text-ink-soft">{invitation.expired ? 'link too old' : `until ${day(invitation.expiresAt)}`}</span>
                  <Button
                    look="quiet"
                    aria-label={`Revoke the invitation of ${invitation.name}`}
                    onClick={() =>
                      run(
                        ask(api.DELETE('/api/invitations/{invitationId}', { params: { path: { invitationId: invitation.id } } })),
                        'The link opens nothing any more.',
                      )
                    }
                  >
                    Revoke
                  </Button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
      {inviting && <InviteDialog onClose={() => setInviting(false)} />}
    </main>
  );
}
