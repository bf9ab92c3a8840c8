import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, Outlet, useNavigate, useRouterState } from '@tanstack/react-router';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { api, ask } from '@/api/client';
import { outgoing } from '@/api/waiting/outgoing';
import { queries } from '@/api/queries';
import { KeysDialog, useShellKeys } from './Keys';
import { useLive } from './useLive';
import { useOutgoingNews } from './useOutgoingNews';
import { WayLine } from './WayLine';
import { setTheme, themeChoice, type Theme } from './theme';

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
] as const;

const initials = (name: string) =>
  name
    .split(' ')
    .map((part) => part[0])
    .slice(0, 2)
    .join('');

/** The thin bar with the workspace's places, over every page of the team. */
export function TeamLayout() {
  const me = useQuery(queries.me()).data;
  const cache = useQueryClient();
  const navigate = useNavigate();
  const [theme, choose] = useState<Theme>(themeChoice);
  const keys = useShellKeys();
  useOutgoingNews(me?.account?.id);
  const path = useRouterState({ select: (s) => s.location.pathname });
  const studyId = /^\/studies\/(\d+)/.exec(path)?.[1];
  const others = useLive(studyId === undefined ? null : Number(studyId)).filter((p) => p.accountId !== me?.account?.id);
  const here = places.find((p) => p.to !== '/' && path.startsWith(p.to))?.to ?? '/';
  const item = 'cursor-pointer rounded-[4px] px-3 py-1.5 data-highlighted:bg-wash';
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-[38px] shrink-0 items-center gap-5 px-5">
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
        <button type="button" className="ml-auto min-h-6 text-[12.5px] text-ink-soft hover:text-ink" onClick={() => keys.setOpen(true)}>
          Keys <kbd className="rounded-[4px] border border-line bg-case px-1.5 font-use text-[11px]">?</kbd>
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
                {me?.account?.name}, {me?.account?.role}
              </DropdownMenu.Label>
              <DropdownMenu.RadioGroup
                value={theme}
                onValueChange={(value) => {
                  choose(value as Theme);
                  setTheme(value as Theme);
                }}
              >
                {(['system', 'light', 'dark'] as const).map((value) => (
                  <DropdownMenu.RadioItem key={value} value={value} className={`${item} flex justify-between`} onSelect={(e) => e.preventDefault()}>
                    {{ system: 'As the system', light: 'Light', dark: 'Dark' }[value]}
                    <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
                  </DropdownMenu.RadioItem>
                ))}
              </DropdownMenu.RadioGroup>
              <DropdownMenu.Separator className="my-1 h-px bg-line" />
              <DropdownMenu.Item
                className={item}
                onSelect={() =>
                  void ask(api.POST('/api/sign-out')).then(() => {
                    outgoing.end();
                    cache.clear();
                    return navigate({ to: '/sign-in' });
                  })
                }
              >
                Sign out
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </header>
      <WayLine />
      <div className="min-h-0 flex-1">
        <Outlet />
      </div>
      <KeysDialog open={keys.open} onOpenChange={keys.setOpen} />
    </div>
  );
}
