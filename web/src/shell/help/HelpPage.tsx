import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useMemo, useState, type MouseEvent } from 'react';
import { fold } from '@/parts/findTags';
import { guide, htmlOf, isGuideName } from './guide';

/** How things are done: a short story to begin with, and a page for each room. It comes with the application. */
export function HelpPage() {
  const { name = guide[0]!.name } = useParams({ strict: false });
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const page = guide.find((p) => p.name === name) ?? guide[0]!;
  const html = useMemo(() => htmlOf(page), [page]);
  const words = fold(typed.trim()).split(/\s+/);
  const fitting = guide.filter((p) => words.every((word) => fold(p.text).includes(word)));
  /** Its own links go to its own pages without loading the application anew. */
  const follow = (event: MouseEvent<HTMLElement>) => {
    const to = (event.target as Element).closest('a')?.getAttribute('href')?.replace('/help/', '');
    if (to === undefined || !isGuideName(to) || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    void navigate({ to: '/help/$name', params: { name: to } });
  };
  return (
    <main className="grid h-full grid-cols-[240px_minmax(0,1fr)] border-t border-line">
      <nav aria-label="Help" className="overflow-y-auto border-r border-line px-5 py-6">
        <input
          type="search"
          aria-label="Find in the help"
          placeholder="Find in the help"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="mb-4 w-full rounded-std border border-line bg-case px-2.5 py-1 placeholder:text-ink-soft"
        />
        <ul className="space-y-0.5">
          {fitting.map((p) => (
            <li key={p.name}>
              <Link
                to="/help/$name"
                params={{ name: p.name }}
                aria-current={p === page ? 'page' : undefined}
                className={`flex min-h-7 items-center ${p === page ? 'font-semibold' : 'text-ink-soft hover:text-ink'}`}
              >
                {p.title}
              </Link>
            </li>
          ))}
        </ul>
        {fitting.length === 0 && <p className="text-ink-soft">No page has these words.</p>}
        <p className="mt-6 text-[12.5px] text-ink-soft">
          <kbd className="rounded-[4px] border border-line bg-case px-1.5 font-use text-[11px]">?</kbd> lists the keys of any page.
        </p>
      </nav>
      <div className="overflow-y-auto">
        <article
          className="guide rich-text mx-auto max-w-[760px] px-8 py-8 font-read text-[17px] leading-[1.6]"
          onClick={follow}
          dangerouslySetInnerHTML={{ __html: html }}
        />
      </div>
    </main>
  );
}
