import { useQuery } from '@tanstack/react-query';
import { useNavigate, useParams } from '@tanstack/react-router';
import { useRef, useState, type ChangeEvent } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { kinds, kindWords } from '@/parts/words';
import { FileDrop } from '@/gather/imports/FileDrop';
import { UnmatchedNames } from '@/gather/turns/MakeParticipants';
import { ImportTray, useImports } from '@/gather/imports/ImportTray';
import { GatherTabs } from './GatherTabs';
import { PasteSource } from './PasteSource';
import { SourceDialog } from './SourceDialog';
import { SourceTable } from './SourceTable';

/** The first room: sources come in, and the people behind them. */
export function GatherPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const folders = useQuery(queries.folders(studyId)).data ?? [];
  const { data: sources, error } = useQuery(queries.sources(studyId));
  const participants = useQuery(queries.participants(studyId)).data;
  const picker = useRef<HTMLInputElement>(null);
  const folderPicker = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const [incoming, setIncoming] = useState<Schemas['SourceKind']>('interview');
  const [pasting, setPasting] = useState(false);
  const [changing, setChanging] = useState<number | null>(null);
  const { add: take } = useImports(studyId);
  const endings = useQuery(queries.me()).data?.fileEndings ?? [];
  if (!sources || !participants) return <Waiting problem={error} />;

  const bring = (files: readonly File[]) => {
    if (files.length > 0) take(files, { kind: incoming, folderId: null, attachment: false });
  };
  const pick = (event: ChangeEvent<HTMLInputElement>) => {
    // Hidden files of a chosen folder are not the researcher's.
    bring([...(event.target.files ?? [])].filter((f) => !f.name.startsWith('.')));
    event.target.value = '';
  };
  const source = sources.find((s: Schemas['SourceLine']) => s.id === changing);
  const add = (
    <>
      <Button look="main" onClick={() => setPasting(true)}>
        Paste a text
      </Button>
      <Button onClick={() => picker.current?.click()}>Choose files</Button>
      <Button onClick={() => folderPicker.current?.click()}>Choose a folder</Button>
    </>
  );
  return (
    <FileDrop onFiles={bring}>
      <GatherTabs studyId={studyId}>{sources.length > 0 && add}</GatherTabs>
      <p className="-mt-2 mb-3 flex items-center justify-end gap-1.5 text-[12.5px] text-ink-soft">
        Files and folders can be dropped anywhere here; they come in as
        <select
          aria-label="What files come in as"
          className="min-h-7 rounded-std border border-line bg-case px-1.5 text-ink"
          value={incoming}
          onChange={(e) => setIncoming(e.target.value as Schemas['SourceKind'])}
        >
          {kinds.map((kind) => (
            <option key={kind} value={kind}>
              {kindWords[kind].one}
            </option>
          ))}
        </select>
      </p>
      <input ref={picker} type="file" multiple accept={endings.join(',')} aria-label="Files to add" className="sr-only" tabIndex={-1} onChange={pick} />
      <input
        ref={folderPicker}
        type="file"
        multiple
        {...{ webkitdirectory: '' }}
        aria-label="A folder to add"
        className="sr-only"
        tabIndex={-1}
        onChange={pick}
      />
      <ImportTray
        studyId={studyId}
        onTable={(table) => void navigate({ to: '/studies/$studyId/gather/table/$table', params: { studyId, table } })}
        onChoose={() => picker.current?.click()}
      />
      {sources.length === 0 ? (
        <Empty title="No material yet" sample="“[12:06] Sorrel: I was already standing on the quay with the box …”" action={add}>
          Drop transcripts, documents, captions, tables or recordings, or paste a text. Speakers and times are recognised: “Name: …”, “[00:12:03] Name”, and the
          voices of captions.
        </Empty>
      ) : (
        <>
          <UnmatchedNames studyId={studyId} sources={sources} />
          <SourceTable studyId={studyId} sources={sources} folders={folders} people={participants.people} onChange={setChanging} />
        </>
      )}
      {pasting && <PasteSource studyId={studyId} people={participants.people} onClose={() => setPasting(false)} onAdded={setChanging} />}
      {source && <SourceDialog key={source.id} studyId={studyId} source={source} people={participants.people} onClose={() => setChanging(null)} />}
    </FileDrop>
  );
}
