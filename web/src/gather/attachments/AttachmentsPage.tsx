import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useRef, useState } from 'react';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { TagLabel } from '@/parts/TagLabel';
import { useTagLook } from '@/parts/useTagLook';
import { size } from '@/parts/words';
import { AttachmentDialog } from './AttachmentDialog';
import { FileDrop } from '@/gather/imports/FileDrop';
import { GatherTabs } from '@/gather/sources/GatherTabs';
import { ImportTray, useImports } from '@/gather/imports/ImportTray';

/** Files of any type that are kept as they are: consent forms, plans, slides, prototypes. */
export function AttachmentsPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { data: attachments, error } = useQuery(queries.attachments(studyId));
  const tags = useQuery(queries.tags(studyId)).data;
  const insights = useQuery(queries.insights(studyId)).data ?? [];
  const look = useTagLook(tags);
  const picker = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const { add } = useImports(studyId);
  const [changing, setChanging] = useState<number | null>(null);
  if (!attachments || !tags) return <Waiting problem={error} />;
  const bring = (files: readonly File[]) => {
    if (files.length > 0) add(files, { kind: 'document', folderId: null, attachment: true });
  };
  const choose = (
    <Button look="main" onClick={() => picker.current?.click()}>
      Attach files
    </Button>
  );
  const one = attachments.find((a) => a.id === changing);
  return (
    <FileDrop onFiles={bring}>
      <GatherTabs studyId={studyId}>
        {attachments.length > 0 && (
          <>
            <span className="mr-2 text-[12.5px] text-ink-soft">files of any type can be dropped anywhere here</span>
            {choose}
          </>
        )}
      </GatherTabs>
      <input
        ref={picker}
        type="file"
        multiple
        aria-label="Files to attach"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          bring([...(e.target.files ?? [])]);
          e.target.value = '';
        }}
      />
      <ImportTray
        studyId={studyId}
        onTable={(table) => void navigate({ to: '/studies/$studyId/gather/table/$table', params: { studyId, table } })}
        onChoose={() => picker.current?.click()}
      />
      {attachments.length === 0 ? (
        <Empty title="Nothing attached yet" sample="Discussion guide.pdf, for the interviews in October" action={choose}>
          Attachments are kept as they are and hold no evidence: a discussion guide, a floor plan, a slide, a table of figures. They can be tagged, and stand
          with an insight as its context.
        </Empty>
      ) : (
        <table className="w-full">
          <thead>
            <tr className="border-b border-line text-left text-[12.5px] text-ink-soft">
              <th className="py-2 pr-4 font-medium">Title</th>
              <th className="py-2 pr-4 font-medium">Tags</th>
              <th className="py-2 pr-4 font-medium">Context of</th>
              <th className="py-2 pr-4 text-right font-medium">Size</th>
              <th className="py-2">
                <span className="sr-only">Open or change</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {attachments.map((a) => (
              <tr key={a.id} className="border-b border-line align-baseline hover:bg-wash">
                <td className="py-2 pr-4">
                  <span className="block font-read text-[16px] font-medium">{a.title}</span>
                  <span className="block text-[12.5px] text-ink-soft">{[a.fileName, a.note].filter(Boolean).join(', ')}</span>
                </td>
                <td className="max-w-[280px] py-2 pr-4">
                  {a.tagIds.map((id) => (
                    <TagLabel key={id} look={look(id)} />
                  ))}
                </td>
                <td className="max-w-[320px] py-2 pr-4">
                  {a.insightIds.length === 0 && <span className="text-ink-soft">no insight yet</span>}
                  {insights
                    .filter((i) => a.insightIds.includes(i.insight.id))
                    .map((i) => (
                      <Link
                        key={i.insight.id}
                        to="/studies/$studyId/show/$insightId"
                        params={{ studyId, insightId: i.insight.id }}
                        className="block truncate hover:underline"
                      >
                        {i.insight.headline}
                      </Link>
                    ))}
                </td>
                <td className="py-2 pr-4 text-right whitespace-nowrap">{size(a.bytes)}</td>
                <td className="py-2 text-right whitespace-nowrap">
                  <a
                    href={`/api/studies/${studyId}/attachments/${a.id}/original`}
                    download
                    className="inline-flex min-h-8 items-center px-3 text-[13px] font-medium text-sky hover:underline"
                    aria-label={`Download ${a.title}`}
                  >
                    Download
                  </a>
                  <Button look="quiet" aria-label={`Change ${a.title}`} onClick={() => setChanging(a.id)}>
                    Change
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {one && <AttachmentDialog key={one.id} studyId={studyId} attachment={one} onClose={() => setChanging(null)} />}
    </FileDrop>
  );
}
