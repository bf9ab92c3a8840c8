import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { count } from '@/parts/words';
import { SessionDialog } from '@/gather/sessions/SessionDialog';

interface Props {
  studyId: number;
  sources: readonly Schemas['SourceLine'][];
  folders: readonly Schemas['Folder'][];
  people: readonly Schemas['Participant'][];
  onFolder: (folderId: number | null) => void;
  onNothing: () => void;
}

/** What can be done with the sources that are chosen: into a folder, into a session. */
export function ChosenSources({ studyId, sources, folders, people, onFolder, onNothing }: Props) {
  const sessions = useQuery(queries.sessions(studyId)).data ?? [];
  const [making, setMaking] = useState(false);
  const path = { studyId };
  const sourceIds = sources.map((s) => s.id);
  const put = useWrite((sessionId: number | null) =>
    ask(api.PUT('/api/studies/{studyId}/sources/session', { params: { path }, body: { sourceIds, sessionId } })),
  );
  const ofEach = useWrite(() => ask(api.POST('/api/studies/{studyId}/sessions/of-each', { params: { path }, body: { sourceIds } })));
  const intoSession = (choice: string) => {
    if (choice === 'new') setMaking(true);
    else if (choice === 'each') ofEach.mutate(undefined, { onSuccess: onNothing });
    else put.mutate(choice === 'none' ? null : Number(choice), { onSuccess: onNothing });
  };
  const list = 'min-h-8 rounded-std border border-line bg-case px-2';
  return (
    <>
      <span className="ml-2">{count(sources.length, 'source')} chosen</span>
      <select
        aria-label="Move what is chosen to a folder"
        className={list}
        value=""
        onChange={(e) => onFolder(e.target.value === 'none' ? null : Number(e.target.value))}
      >
        <option value="" disabled>
          Folder …
        </option>
        {folders.map((f) => (
          <option key={f.id} value={f.id}>
            {f.name}
          </option>
        ))}
        <option value="none">no folder</option>
      </select>
      <select aria-label="Choose its session" className={list} value="" onChange={(e) => intoSession(e.target.value)}>
        <option value="" disabled>
          Session …
        </option>
        <option value="new">a new session of {sources.length === 1 ? 'it' : 'all of them'}</option>
        {sources.length > 1 && <option value="each">a new session of each</option>}
        {sessions.map((s) => (
          <option key={s.id} value={s.id}>
            {s.title}
          </option>
        ))}
        <option value="none">no session</option>
      </select>
      <Button look="quiet" onClick={onNothing}>
        Choose nothing
      </Button>
      {making && (
        <SessionDialog
          studyId={studyId}
          session={null}
          sources={sources}
          people={people}
          onClose={() => {
            setMaking(false);
            onNothing();
          }}
        />
      )}
    </>
  );
}
