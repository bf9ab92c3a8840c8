import { Link } from '@tanstack/react-router';
import type { Schemas } from '@/api/client';
import { count } from '@/parts/words';

/** The five stages of a study on one line, each with its live figure; the way to move inside a study. */
export function StageLine({ line }: { line: Schemas['StudyLine'] }) {
  const stages = [
    { to: '/studies/$studyId/gather', name: 'Gather', figure: count(line.sources, 'source') },
    { to: '/studies/$studyId/mark', name: 'Mark', figure: count(line.observations, 'observation') },
    { to: '/studies/$studyId/sort', name: 'Sort', figure: count(line.themes, 'theme') },
    { to: '/studies/$studyId/weigh', name: 'Weigh', figure: '' },
    { to: '/studies/$studyId/show', name: 'Show', figure: count(line.insights, 'insight') },
  ] as const;
  return (
    <nav aria-label="Stages of the study" className="relative grid flex-1 grid-cols-5">
      <span aria-hidden className="absolute right-0 bottom-[4.5px] left-1 h-px bg-line" />
      {stages.map((stage) => (
        <Link
          key={stage.name}
          to={stage.to}
          params={{ studyId: line.id }}
          title={stage.figure || undefined}
          className="group relative block min-w-0 rounded-[3px]"
        >
          {({ isActive }: { isActive: boolean }) => (
            <>
              <span className={`flex min-w-0 items-baseline gap-2 pr-3 ${isActive ? 'font-semibold text-ink' : 'text-ink-soft group-hover:text-ink'}`}>
                <span className="text-[14.5px]">{stage.name}</span> <span className="min-w-0 truncate text-[12px] max-[1100px]:hidden">{stage.figure}</span>
                <span aria-hidden className="hidden text-[12px] max-[1100px]:inline">
                  {/\d[\d,]*/.exec(stage.figure)?.[0]}
                </span>
              </span>
              <span
                aria-hidden
                className={`mt-1.5 block h-[10px] rounded-full border transition-all ${isActive ? 'w-9 border-verdigris bg-verdigris' : 'w-[10px] border-ink-soft/60 bg-paper group-hover:border-verdigris'}`}
              />
            </>
          )}
        </Link>
      ))}
    </nav>
  );
}
