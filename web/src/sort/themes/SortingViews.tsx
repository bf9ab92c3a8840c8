import { Link } from '@tanstack/react-router';

/** Two ways to see the same themes. */
export function SortingViews({ studyId, at }: { studyId: number; at: 'table' | 'outline' }) {
  const look = (here: boolean) =>
    `inline-flex min-h-7 items-center border-b-2 ${here ? 'border-verdigris font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`;
  return (
    <nav aria-label="Ways to see themes" className="flex gap-4 text-[13px]">
      <Link to="/studies/$studyId/sort" params={{ studyId }} aria-current={at === 'table' ? 'page' : undefined} className={look(at === 'table')}>
        Table
      </Link>
      <Link to="/studies/$studyId/sort/outline" params={{ studyId }} aria-current={at === 'outline' ? 'page' : undefined} className={look(at === 'outline')}>
        Outline
      </Link>
    </nav>
  );
}
