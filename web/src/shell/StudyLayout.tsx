import { useQuery } from '@tanstack/react-query';
import { Link, Outlet, useParams } from '@tanstack/react-router';
import { queries } from '@/api/queries';
import { Waiting } from '@/parts/Empty';
import { StudyFileDrop } from '@/gather/imports/FileDrop';
import { EvidenceDrawer } from '@/weigh/evidence/EvidenceDrawer';
import { useEvidence } from '@/shared/useEvidence';
import { StageLine } from './StageLine';

/** Titles beyond this many characters take two smaller lines. */
const longTitle = 26;

/** A study's pages: its title, the stage line, the page, and the evidence drawer. */
export function StudyLayout() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { data: study, error } = useQuery(queries.study(studyId));
  const { evidence, close } = useEvidence();
  if (!study) return <Waiting problem={error} />;
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-[64px] shrink-0 items-end gap-8 border-b border-line px-5 pb-3.5 print:hidden">
        <Link
          to="/studies/$studyId"
          params={{ studyId }}
          className={`w-[290px] shrink-0 max-[1100px]:w-[210px] font-read font-semibold ${study.line.title.length > longTitle ? 'line-clamp-2 text-[16px] leading-[1.2]' : 'truncate text-[20px] leading-7'}`}
          title={study.line.title}
        >
          {study.line.title}
        </Link>
        <StageLine line={study.line} />
      </div>
      <main className="min-h-0 flex-1">
        <StudyFileDrop studyId={studyId}>
          <Outlet />
        </StudyFileDrop>
      </main>
      {evidence && <EvidenceDrawer studyId={studyId} of={evidence} onClose={close} />}
    </div>
  );
}
