import { useMemo, useRef, useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { useRowActions } from '@/parts/actions/registry';
import { Button } from '@/parts/Button';
import { useSourceCounts } from '@/shared/useSourceCounts';
import { sourceRows } from './actions';
import { ChosenSources } from './ChosenSources';
import { drag } from './dragged';
import { FolderDialog } from './FolderDialog';
import { FolderBody, FolderRow } from './FolderRows';
import { namesIn, SourceRow } from './SourceRow';
import { useRowsInView } from './useRowsInView';
import { useWordsInside, WordsInside } from './WordsInside';

type Line = Schemas['SourceLine'];
type Folder = Schemas['Folder'];

/** A row of the table: a source, or the folder over those that follow. */
type TableLine = { source: Line } | { folder: Folder; inside: number };

const folderOf = (line: TableLine) => ('folder' in line ? line.folder.id : line.source.folderId);
const keyOf = (line: TableLine) => ('folder' in line ? `folder ${line.folder.id}` : line.source.id);

/** A folder with more sources than this begins closed. */
const mostOpen = 60;
const rowHeight = 45;

interface Props {
  studyId: number;
  sources: readonly Line[];
  folders: readonly Folder[];
  people: readonly Schemas['Participant'][];
  onChange: (id: number) => void;
}

/** A study's sources by folder, in the order the researcher gave them. They are found by title, people and the words inside, and moved by drag or keys. */
export function SourceTable({ studyId, sources, folders, people, onChange }: Props) {
  useRowActions(sourceRows);
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [naming, setNaming] = useState<Folder | 'new' | null>(null);
  const inside = useWordsInside(studyId, typed);
  const observationsIn = useSourceCounts(studyId);
  const move = useWrite((given: { sourceIds: number[]; folderId: number | null; beforeId?: number | undefined; afterId?: number | undefined }) =>
    ask(
      api.PUT('/api/studies/{studyId}/sources/folder', {
        params: { path: { studyId } },
        body: { ...given, beforeId: given.beforeId ?? null, afterId: given.afterId ?? null },
      }),
    ),
  );
  const put = (sourceIds: number[], folderId: number | null) => {
    if (sourceIds.length > 0) move.mutate({ sourceIds, folderId });
    setChosen(new Set());
  };
  const wanted = typed.trim().toLowerCase();
  const called = useMemo(() => new Map(people.map((p) => [p.id, p.pseudonym])), [people]);
  const holds = (s: Line) => [s.title, s.fileName ?? '', ...namesIn(s, called)].some((t) => t.toLowerCase().includes(wanted));
  const found = sources.filter((s) => wanted === '' || holds(s) || inside.has(s.id));
  const here = [...chosen].filter((id) => sources.some((s) => s.id === id));
  const choose = (ids: readonly number[], on: boolean) => setChosen(new Set(on ? [...chosen, ...ids] : [...chosen].filter((id) => !ids.includes(id))));

  const step = (source: Line, by: -1 | 1) => {
    const beside = sources.filter((s) => s.folderId === source.folderId);
    const neighbour = beside[beside.indexOf(source) + by]?.id;
    if (neighbour === undefined) return;
    move.mutate(
      { sourceIds: [source.id], folderId: source.folderId, ...(by < 0 ? { beforeId: neighbour } : { afterId: neighbour }) },
      // The row has moved in the page, and its box has lost the focus.
      { onSuccess: () => setTimeout(() => document.querySelector<HTMLElement>(`[data-source="${source.id}"] input`)?.focus()) },
    );
  };
  const [opened, setOpened] = useState<ReadonlyMap<number, boolean>>(new Map());
  const isOpen = (folder: Folder, inside: number) => opened.get(folder.id) ?? (wanted !== '' || inside <= mostOpen);
  const lines: TableLine[] = [
    ...found.filter((s) => s.folderId === null).map((source) => ({ source })),
    ...folders.flatMap((folder) => {
      const of = found.filter((s) => s.folderId === folder.id);
      if (wanted !== '' && of.length === 0) return [];
      return [{ folder, inside: of.length }, ...(isOpen(folder, of.length) ? of.map((source) => ({ source })) : [])];
    }),
  ];
  const table = useRef<HTMLTableElement>(null);
  const view = useRowsInView(table, lines.length, rowHeight, (at) => keyOf(lines[at]!));
  const row = (line: TableLine, at: number) =>
    'folder' in line ? (
      <FolderRow
        key={keyOf(line)}
        row={{ ref: view.measure, 'data-index': at, 'aria-rowindex': at + 2 }}
        folder={line.folder}
        inside={line.inside}
        open={isOpen(line.folder, line.inside)}
        onOpen={(open) => setOpened(new Map(opened).set(line.folder.id, open))}
        onName={() => setNaming(line.folder)}
      />
    ) : (
      <SourceRow
        key={keyOf(line)}
        row={{ ref: view.measure, 'data-index': at, 'aria-rowindex': at + 2 }}
        studyId={studyId}
        source={line.source}
        names={namesIn(line.source, called)}
        observations={observationsIn(line.source.id)}
        chosen={chosen.has(line.source.id)}
        onChoose={(on) => choose([line.source.id], on)}
        onChange={() => onChange(line.source.id)}
        onDrag={(e) => drag(e.dataTransfer, here.includes(line.source.id) ? here : [line.source.id])}
        onStep={(by) => step(line.source, by)}
        onDropBefore={(ids) => !ids.includes(line.source.id) && move.mutate({ sourceIds: ids, folderId: line.source.folderId, beforeId: line.source.id })}
      >
        <WordsInside studyId={studyId} found={inside.get(line.source.id)} sourceId={line.source.id} />
      </SourceRow>
    );
  /** What is in view, by folder: a folder takes what is dropped onto any of its rows. */
  const groups = Map.groupBy(view.rows, (at) => folderOf(lines[at]!));
  return (
    <>
      <div className="mb-1 flex items-center gap-2">
        <input
          aria-label="Find in the sources"
          placeholder="Find a title, a person, or words inside"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="w-[290px] rounded-std border border-line bg-case px-2.5 py-1 placeholder:text-ink-soft"
        />
        {here.length > 0 ? (
          <ChosenSources
            studyId={studyId}
            sources={sources.filter((s) => chosen.has(s.id))}
            folders={folders}
            people={people}
            onFolder={(folderId) => put(here, folderId)}
            onNothing={() => setChosen(new Set())}
          />
        ) : (
          <span aria-live="polite" className="ml-2 text-[12.5px] text-ink-soft">
            {wanted !== '' && `${found.length} of ${sources.length} sources`}
          </span>
        )}
        <Button look="quiet" className="ml-auto" onClick={() => setNaming('new')}>
          New folder
        </Button>
      </div>
      <table ref={table} aria-rowcount={lines.length + 1} className="w-full table-fixed">
        <thead>
          <tr className="border-b border-line text-left text-[12.5px] text-ink-soft">
            <th className="w-8 py-2">
              <span className="sr-only">Choose</span>
            </th>
            <th className="py-2 pr-4 font-medium">Title</th>
            <th className="w-[140px] py-2 pr-4 font-medium">Kind</th>
            <th className="w-[160px] py-2 pr-4 font-medium">Held on</th>
            <th className="w-[190px] py-2 pr-4 font-medium">People</th>
            <th className="w-[110px] py-2 pr-4 text-right font-medium">Observations</th>
            <th className="w-[130px] py-2 pr-4 font-medium">You have read</th>
            <th className="w-[84px] py-2">
              <span className="sr-only">Change</span>
            </th>
          </tr>
        </thead>
        <Space height={view.before} />
        {[...groups].map(([folderId, at]) => (
          <FolderBody key={folderId ?? 'none'} onDrop={folderId === null ? null : (ids) => put(ids, folderId)}>
            {at.map((i) => row(lines[i]!, i))}
          </FolderBody>
        ))}
        <Space height={view.after} />
      </table>
      {found.length === 0 && <p className="py-6 text-center text-ink-soft">No source of this study is called that or holds these words.</p>}
      {naming && (
        <FolderDialog
          studyId={studyId}
          folder={naming === 'new' ? null : naming}
          inside={sources.filter((s) => naming !== 'new' && s.folderId === naming.id).length}
          onClose={() => setNaming(null)}
        />
      )}
    </>
  );
}

/** The room of the rows that are not in the page. */
function Space({ height }: { height: number }) {
  if (height <= 0) return null;
  return (
    <tbody aria-hidden>
      <tr>
        <td colSpan={8} className="p-0" style={{ height }} />
      </tr>
    </tbody>
  );
}
