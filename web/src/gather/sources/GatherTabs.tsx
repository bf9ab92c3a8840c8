import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { queries } from '@/api/queries';

/** The sides of gathering, with what can be done on the side that is open. */
export function GatherTabs({ studyId, children }: { studyId: number; children?: ReactNode }) {
  const sources = useQuery(queries.sources(studyId)).data?.length;
  const people = useQuery(queries.participants(studyId)).data?.people.length;
  const sessions = useQuery(queries.sessions(studyId)).data?.length;
  const attachments = useQuery(queries.attachments(studyId)).data?.length;
  const look = 'font-read text-xl border-b-2 pb-0.5 hover:text-ink';
  const here = { className: `${look} border-verdigris font-semibold` };
  const away = { className: `${look} border-transparent text-ink-soft` };
  return (
    <div className="mb-3 flex min-h-9 items-center gap-2 whitespace-nowrap">
      <nav aria-label="Sections" className="flex gap-5 whitespace-nowrap">
        <Link to="/studies/$studyId/gather" params={{ studyId }} activeOptions={{ exact: true }} activeProps={here} inactiveProps={away}>
          Sources <span className="font-use text-[12.5px] font-medium text-ink-soft">{sources}</span>
        </Link>
        <Link to="/studies/$studyId/gather/sessions" params={{ studyId }} activeProps={here} inactiveProps={away}>
          Sessions <span className="font-use text-[12.5px] font-medium text-ink-soft">{sessions}</span>
        </Link>
        <Link to="/studies/$studyId/gather/people" params={{ studyId }} activeOptions={{ exact: true }} activeProps={here} inactiveProps={away}>
          Participants <span className="font-use text-[12.5px] font-medium text-ink-soft">{people}</span>
        </Link>
        <Link to="/studies/$studyId/gather/attachments" params={{ studyId }} activeProps={here} inactiveProps={away}>
          Attachments <span className="font-use text-[12.5px] font-medium text-ink-soft">{attachments}</span>
        </Link>
        <Link to="/studies/$studyId/gather/privacy" params={{ studyId }} activeProps={here} inactiveProps={away}>
          Privacy
        </Link>
      </nav>
      <div className="ml-auto flex items-center gap-2">{children}</div>
    </div>
  );
}
