import { useQuery } from '@tanstack/react-query';
import { useParams } from '@tanstack/react-router';
import { useRef, useState, type DragEvent } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { FileResults, useFiles } from './files';
import { ParticipantGrid } from './ParticipantGrid';
import { PasteSource } from './PasteSource';
import { SourceDialog } from './SourceDialog';
import { SourceTable } from './SourceTable';

/** The first room: sources come in, and the people behind them. */
export function GatherPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { data: sources, error } = useQuery(queries.sources(studyId));
  const participants = useQuery(queries.participants(studyId)).data;
  const picker = useRef<HTMLInputElement>(null);
  const [pasting, setPasting] = useState(false);
  const [changing, setChanging] = useState<number | null>(null);
  const [over, setOver] = useState(false);
  const files = useFiles(studyId);
  if (!sources || !participants) return <Waiting problem={error} />;

  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void files.add([...event.dataTransfer.files]);
  };
  const source = sources.find((s: Schemas['SourceLine']) => s.id === changing);
  const add = (
    <>
      <Button look="main" onClick={() => setPasting(true)}>
        Paste a text
      </Button>
      <Button onClick={() => picker.current?.click()}>Choose files</Button>
    </>
  );
  return (
    <div
      className={`h-full overflow-y-auto ${over ? 'bg-wash outline-2 -outline-offset-8 outline-verdigris outline-dashed' : ''}`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={drop}
    >
      <div className="mx-auto max-w-[1240px] px-5 py-6">
        <div className="mb-2 flex items-center gap-2">
          <h1 className="font-read text-xl font-semibold">Sources</h1>
          <span className="text-[12.5px] text-ink-soft">.txt, .md and .vtt files can be dropped anywhere on this page</span>
          <div className="ml-auto flex gap-2">{sources.length > 0 && add}</div>
        </div>
        <input
          ref={picker}
          type="file"
          multiple
          accept=".txt,.md,.vtt"
          aria-label="Files to add"
          className="sr-only"
          tabIndex={-1}
          onChange={(e) => {
            void files.add([...(e.target.files ?? [])]);
            e.target.value = '';
          }}
        />
        <FileResults files={files} />
        {sources.length === 0 ? (
          <Empty title="No material yet" sample="“[12:06] Sorrel: I was already standing on the quay with the box …”" action={add}>
            Paste an interview or drop files. Speakers and times are recognised: “Name: …”, “[00:12:03] Name”, and the voices of .vtt captions.
          </Empty>
        ) : (
          <SourceTable studyId={studyId} sources={sources} people={participants.people} onChange={setChanging} />
        )}
        <ParticipantGrid studyId={studyId} participants={participants} />
      </div>
      {pasting && <PasteSource studyId={studyId} people={participants.people} onClose={() => setPasting(false)} onAdded={setChanging} />}
      {source && <SourceDialog key={source.id} studyId={studyId} source={source} people={participants.people} onClose={() => setChanging(null)} />}
    </div>
  );
}
