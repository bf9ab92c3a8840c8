import { useQuery } from '@tanstack/react-query';
import { Link, Outlet, useRouterState } from '@tanstack/react-router';
import { DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { queries } from '@/api/queries';
import { ActionKey } from '@/parts/actions/ActionButton';
import { focusPage } from '@/parts/keepFocus';
import { roleWords } from '@/parts/words';
import { everywhere, type Opening } from './actions';
import { KeysDialog } from './KeysDialog';
import { Palette } from '@/search/Palette';
import { PasswordDialog } from '@/access/PasswordDialog';
import { StepsDialog } from '@/trail/StepsDialog';
import { setTheme, themeChoice, type Theme } from './theme';
import { useShellActions } from './useShellActions';
import { useLive } from './useLive';
import { useOutgoingNews } from './useOutgoingNews';
import { useStudyId } from '@/shared/useStudyId';
import { WayLine } from './WayLine';

/** The mark: a small display case. */
function Mark() {
  return (
    <svg aria-hidden viewBox="0 0 24 24" className="size-[22px]" fill="none" stroke="var(--verdigris)" strokeWidth="2" strokeLinejoin="round">
      <path d="M4 9.5 12 4l8 5.5V20H4zM4 14h16M8 9.5h8" />
    </svg>
  );
}

const places = [
  { to: '/', label: 'Studies' },
  { to: '/tags', label: 'Tag set' },
  { to: '/exhibits', label: 'Exhibits' },
  { to: '/intake', label: 'Intake' },
  { to: '/people', label: 'People' },
] as const;

const { steps, help, password, signOut, signOutEverywhere } = everywhere.actions;

const initials = (name: string) =>
  name
    .split(' ')
    .map((part) => part[0])
    .slice(0, 2)
    .join('');

/** The thin bar with the workspace's places, over every page of the team. */
export function TeamLayout({ children }: { children?: ReactNode }) {
  const me = useQuery(queries.me()).data;
  const [theme, choose] = useState<Theme>(themeChoice);
  const [shown, show] = useState<Opening | null>(null);
  const acts = useShellActions(show, (to) => {
    choose(to);
    setTheme(to);
  });
  useOutgoingNews(me?.account?.id);
  const path = useRouterState({ select: (s) => s.location.pathname });
  const others = useLive(useStudyId()).filter((p) => p.accountId !== me?.account?.id);
  const here = path.startsWith('/studies') ? '/' : places.find((p) => p.to === path || (p.to !== '/' && path.startsWith(p.to)))?.to;
  const item = 'cursor-pointer rounded-[4px] px-3 py-1.5 data-highlighted:bg-wash';
  const dialog = (what: Opening) => ({ open: shown === what, onOpenChange: (open: boolean) => show(open ? what : null) });
  return (
    <div className="flex h-full flex-col">
      <button
        type="button"
        className="sr-only focus-visible:not-sr-only focus-visible:absolute focus-visible:top-1 focus-visible:left-1 focus-visible:z-50 focus-visible:rounded-std focus-visible:bg-case focus-visible:px-3 focus-visible:py-1.5"
        onClick={focusPage}
      >
        Skip to the page
      </button>
      <header className="flex h-[38px] shrink-0 items-center gap-5 px-5 print:hidden">
        <Link to="/" className="flex items-center gap-2 font-read text-[17px] font-semibold">
          <Mark /> Vitrine
        </Link>
        <nav aria-label="Workspace" className="flex gap-4">
          {places.map((place) => (
            <Link
              key={place.to}
              to={place.to}
              aria-current={here === place.to ? 'page' : undefined}
              className={`inline-flex min-h-6 items-center ${here === place.to ? 'font-semibold text-ink' : 'text-ink-soft hover:text-ink'}`}
            >
              {place.label}
            </Link>
          ))}
        </nav>
        <button
          type="button"
          className="ml-auto flex min-h-7 w-[230px] items-center justify-between rounded-std border border-line bg-case px-2.5 text-[12.5px] text-ink-soft hover:text-ink"
          onClick={() => show('palette')}
        >
          Find or do <ActionKey of={everywhere.actions.palette} />
        </button>
        <button type="button" className="min-h-6 text-[12.5px] text-ink-soft hover:text-ink" onClick={() => show('keys')}>
          Keys <ActionKey of={everywhere.actions.keys} />
        </button>
        {others.length > 0 && (
          <ul aria-label="Also in this study" className="-mr-2 flex gap-1">
            {others.map((other) => (
              <li
                key={other.accountId}
                title={`${other.name} has this study open`}
                className="grid size-7 place-items-center rounded-full border border-verdigris text-[11px] font-semibold text-verdigris"
              >
                <span aria-hidden>{initials(other.name)}</span>
                <span className="sr-only">{other.name}</span>
              </li>
            ))}
          </ul>
        )}
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            className="grid size-7 place-items-center rounded-full bg-verdigris text-[11px] font-semibold text-on-verdigris"
            aria-label={`Signed in as ${me?.account?.name ?? ''}`}
          >
            {initials(me?.account?.name ?? '')}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" className="z-50 min-w-[200px] rounded-std border border-line bg-case p-1 shadow-float">
              <DropdownMenu.Label className="px-3 py-1.5 text-[12.5px] text-ink-soft">
                {me?.account && `${me.account.name}, ${roleWords[me.account.role].one}`}
              </DropdownMenu.Label>
              <DropdownMenu.RadioGroup value={theme} onValueChange={(value) => acts.theme(value as Theme)}>
                {(['system', 'light', 'dark'] as const).map((value) => (
                  <DropdownMenu.RadioItem key={value} value={value} className={`${item} flex justify-between`} onSelect={(e) => e.preventDefault()}>
                    {{ system: 'As the system', light: 'Light', dark: 'Dark' }[value]}
                    <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
                  </DropdownMenu.RadioItem>
                ))}
              </DropdownMenu.RadioGroup>
              <DropdownMenu.Separator className="my-1 h-px bg-line" />
              {[steps, help, password, signOut, signOutEverywhere].map((action) => (
                <DropdownMenu.Item key={action.name} className={item} onSelect={() => void action.run(acts)}>
                  {action.name}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </header>
      <div className="min-h-0 flex-1">{children ?? <Outlet />}</div>
      <WayLine />
      <KeysDialog {...dialog('keys')} />
      <StepsDialog {...dialog('steps')} />
      <PasswordDialog {...dialog('password')} />
      <Palette {...dialog('palette')} />
    </div>
  );
}
