import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { queries } from '@/api/queries';

const views = [
  { at: 'table', name: 'Table', to: '/studies/$studyId/sort' },
  { at: 'outline', name: 'Outline', to: '/studies/$studyId/sort/outline' },
  { at: 'suggestions', name: 'Suggestions', to: '/studies/$studyId/sort/suggestions' },
  { at: 'whoNext', name: 'Who next', to: '/studies/$studyId/sort/who-next' },
] as const;

/** Two ways to see the same themes, and what is suggested for them. */
export function SortingViews({ studyId, at }: { studyId: number; at: (typeof views)[number]['at'] }) {
  const waiting = useQuery(queries.suggestions(studyId)).data?.filter((s) => !s.putAway && s.answered < s.items).length ?? 0;
  return (
    <nav aria-label="Ways to see themes" className="flex gap-4 text-[13px] whitespace-nowrap">
      {views.map((view) => (
        <Link
          key={view.at}
          to={view.to}
          params={{ studyId }}
          aria-current={at === view.at ? 'page' : undefined}
          className={`inline-flex min-h-7 items-center border-b-2 ${at === view.at ? 'border-verdigris font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}
        >
          {view.name}
          {view.at === 'suggestions' && waiting > 0 && <span className="ml-1.5 text-brass">{waiting}</span>}
        </Link>
      ))}
    </nav>
  );
}
