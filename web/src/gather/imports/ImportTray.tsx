import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useSyncExternalStore } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { sending, type Outbound } from './sending';

type State = Schemas['JobState'];

const stateWords: Record<State, string> = {
  sending: 'coming in',
  waiting: 'waits its turn',
  working: 'being read',
  same: 'here already',
  table: 'a table',
  done: 'added',
  refused: 'not added',
  cancelled: 'cancelled',
};
/** What is said of a recording that is made ready: it is there already. */
const recordingWords: Record<State, string> = { ...stateWords, waiting: 'to be made ready', working: 'being made ready', done: 'ready', refused: 'not ready' };
const stateLook: Partial<Record<State, string>> = { done: 'text-verdigris', refused: 'text-oxblood', same: 'text-brass', table: 'text-brass' };
const linkLook = 'inline-flex min-h-8 items-center rounded-std border border-line bg-case px-3 text-[13px] font-medium hover:bg-wash';
const busyStates: readonly State[] = ['sending', 'waiting', 'working'];

/** Takes files in for a study; each is announced, sent in pieces, and worked on by the server. */
export function useImports(studyId: number) {
  const cache = useQueryClient();
  const again = () => void cache.invalidateQueries({ queryKey: ['imports', studyId] });
  return {
    add: (files: readonly File[], given: Pick<Schemas['NewFile'], 'kind' | 'folderId' | 'attachment'>) => void sending.add(studyId, files, given, again),
    again,
  };
}

interface Props {
  studyId: number;
  /** A table waits to be told what its columns are. */
  onTable: (key: string) => void;
  /** A file that broke off is chosen again. */
  onChoose: () => void;
}

/** What became of each file, and what to do about it. It is kept by the server and survives a reload. */
export function ImportTray({ studyId, onTable, onChoose }: Props) {
  const outbound = useSyncExternalStore(sending.subscribe, sending.now).filter((f) => f.studyId === studyId);
  const imports = useQuery(queries.imports(studyId)).data ?? [];
  const { again } = useImports(studyId);
  const unannounced = outbound.filter((f) => f.key === null || f.refused !== null);
  if (imports.length + unannounced.length === 0) return null;

  // A recording is added as a file, and made ready after that.
  const left = (state: State) => imports.filter((i) => i.state === state && i.kind !== 'recording').length;
  const busy = unannounced.some((f) => f.refused === null) || imports.some((i) => busyStates.includes(i.state));
  const came = imports.filter((i) => i.state === 'done' && i.kind !== 'recording' && i.sourceId !== null).map((i) => i.sourceId);
  const path = (key: string) => ({ params: { path: { studyId, key } } });
  const anyway = (key: string) => void ask(api.POST('/api/studies/{studyId}/imports/{key}/anyway', path(key))).finally(again);
  const cancel = (key: string) => {
    sending.drop(key);
    void ask(api.DELETE('/api/studies/{studyId}/imports/{key}', path(key))).finally(again);
  };
  const putAway = () => {
    sending.clear(studyId);
    void ask(api.POST('/api/studies/{studyId}/imports/put-away', { params: { path: { studyId } } })).finally(again);
  };
  const figures = [
    [left('done'), 'added'],
    [left('refused') + unannounced.filter((f) => f.refused).length, 'not added'],
    [left('same'), 'here already'],
    [left('table'), 'to map'],
  ].filter(([n]) => n !== 0);
  return (
    <section aria-label="Files" className="mb-5 rounded-std border border-line bg-case">
      <div className="flex min-h-10 items-center gap-3 border-b border-line px-4 py-1.5">
        <h2 className="font-semibold">{busy ? 'Files are coming in' : 'Files that came in'}</h2>
        <span aria-live="polite" className="text-[12.5px] text-ink-soft">
          {figures.map(([n, words]) => `${n} ${words}`).join(', ')}
          {busy && figures.length === 0 && 'You can go on with other things.'}
        </span>
        {!busy && (
          <span className="ml-auto flex gap-2">
            {came.length > 0 && (
              <Link to="/studies/$studyId/gather/look" params={{ studyId }} search={{ sources: came.join(',') }} className={linkLook}>
                Look at what was understood
              </Link>
            )}
            <Button look="quiet" onClick={putAway}>
              Close this list
            </Button>
          </span>
        )}
      </div>
      <ul className="max-h-[300px] overflow-y-auto px-4 py-2" tabIndex={0} aria-label="What became of each file">
        {imports.map((one) => (
          <Line
            key={one.key}
            studyId={studyId}
            one={one}
            outbound={outbound.find((f) => f.key === one.key)}
            onAnyway={anyway}
            onCancel={cancel}
            onTable={onTable}
            onChoose={onChoose}
          />
        ))}
        {unannounced.map((f, i) => (
          <li key={i} className="grid grid-cols-[230px_92px_1fr] items-baseline gap-3 py-[3px]">
            <span className="truncate font-medium" title={f.file.name}>
              {f.file.name}
            </span>
            <span className={f.refused ? 'text-oxblood' : 'text-ink-soft'}>{f.refused ? 'not added' : 'is next'}</span>
            <span className="text-oxblood">{f.refused}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface LineProps extends Pick<Props, 'studyId' | 'onTable' | 'onChoose'> {
  one: Schemas['Import'];
  outbound: Outbound | undefined;
  onAnyway: (key: string) => void;
  onCancel: (key: string) => void;
}

function Line({ studyId, one, outbound, onAnyway, onCancel, onTable, onChoose }: LineProps) {
  const sent = one.bytes === 0 ? 0 : (outbound?.sent ?? one.received) / one.bytes;
  const broken = one.state === 'sending' && !outbound;
  const act = 'min-h-6 font-medium text-sky hover:underline';
  return (
    <li className="grid grid-cols-[230px_92px_1fr_auto] items-baseline gap-3 py-[3px]">
      <span className="truncate font-medium" title={one.name}>
        {one.name}
      </span>
      <span className={stateLook[one.state] ?? 'text-ink-soft'}>
        {broken ? 'broke off' : (one.kind === 'recording' ? recordingWords : stateWords)[one.state]}
      </span>
      <span className={one.state === 'refused' ? 'text-oxblood' : 'text-ink-soft'}>
        {(one.state === 'sending' || one.state === 'working') && (
          <span
            role="progressbar"
            aria-label={one.name}
            aria-valuenow={Math.round((one.state === 'sending' ? sent : one.progress) * 100)}
            className="mr-3 inline-block h-[3px] w-40 rounded-full bg-line align-middle"
          >
            <span className="block h-full rounded-full bg-verdigris" style={{ width: `${(one.state === 'sending' ? sent : one.progress) * 100}%` }} />
          </span>
        )}
        {one.state === 'sending' ? `${Math.round(sent * 100)} %${broken ? '. Choose the file again, and it goes on from there.' : ''}` : one.said}
      </span>
      <span className="flex gap-3 whitespace-nowrap">
        {broken && (
          <button type="button" className={act} onClick={onChoose}>
            Choose it again
          </button>
        )}
        {(one.state === 'done' || one.state === 'same') && one.sourceId !== null && (
          <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: one.sourceId }} className={act} aria-label={`Read ${one.name}`}>
            Read it
          </Link>
        )}
        {one.state === 'same' && (
          <button type="button" className={act} onClick={() => onAnyway(one.key)}>
            Add it anyway
          </button>
        )}
        {one.state === 'table' && (
          <button type="button" className={act} onClick={() => onTable(one.key)}>
            Say what its columns are
          </button>
        )}
        {(one.state === 'sending' ||
          one.state === 'waiting' ||
          one.state === 'same' ||
          one.state === 'table' ||
          (one.kind === 'recording' && one.state === 'working')) && (
          <button type="button" className="min-h-6 text-ink-soft hover:underline" aria-label={`Cancel ${one.name}`} onClick={() => onCancel(one.key)}>
            Cancel
          </button>
        )}
      </span>
    </li>
  );
}
