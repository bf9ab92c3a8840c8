import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState, type DragEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { count } from '@/parts/words';
import { namesIn, SourceRow } from './SourceRow';

type Line = Schemas['SourceLine'];
type Folder = Schemas['Folder'];

interface Props {
  studyId: number;
  sources: readonly Line[];
  folders: readonly Folder[];
  people: readonly Schemas['Participant'][];
  onChange: (id: number) => void;
}

/** What is dragged from the table: sources, not files. */
export const draggedSources = 'application/x-vitrine-sources';

/** A folder with more sources than this begins closed, and shows so many until asked for all. */
const mostShown = 60;

/** A study's sources by folder; one or many go into a folder by drag, or by their boxes and the list above. */
export function SourceTable({ studyId, sources, folders, people, onChange }: Props) {
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [naming, setNaming] = useState<Folder | 'new' | null>(null);
  const move = useWrite((given: { sourceIds: number[]; folderId: number | null }) =>
    ask(api.PUT('/api/studies/{studyId}/sources/folder', { params: { path: { studyId } }, body: given })),
  );
  const put = (sourceIds: number[], folderId: number | null) => {
    if (sourceIds.length > 0) move.mutate({ sourceIds, folderId });
    setChosen(new Set());
  };
  const wanted = typed.trim().toLowerCase();
  const found = sources.filter((s) => wanted === '' || [s.title, s.fileName ?? '', ...namesIn(s, people)].some((t) => t.toLowerCase().includes(wanted)));
  const here = [...chosen].filter((id) => sources.some((s) => s.id === id));
  const choose = (ids: readonly number[], on: boolean) => setChosen(new Set(on ? [...chosen, ...ids] : [...chosen].filter((id) => !ids.includes(id))));
  const drag = (event: DragEvent, id: number) => {
    event.dataTransfer.setData(draggedSources, JSON.stringify(here.includes(id) ? here : [id]));
    event.dataTransfer.effectAllowed = 'move';
  };
  const rows = (inside: readonly Line[]) =>
    inside.map((s) => (
      <SourceRow
        key={s.id}
        studyId={studyId}
        source={s}
        people={people}
        chosen={chosen.has(s.id)}
        onChoose={(on) => choose([s.id], on)}
        onChange={() => onChange(s.id)}
        onDrag={drag}
      />
    ));
  const loose = found.filter((s) => s.folderId === null);
  return (
    <>
      <div className="mb-1 flex items-center gap-2">
        <input
          aria-label="Find a source"
          placeholder="Find a source or a person"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="w-[260px] rounded-std border border-line bg-case px-2.5 py-1 placeholder:text-ink-soft"
        />
        {here.length > 0 && (
          <>
            <span className="ml-2">{count(here.length, 'source')} chosen</span>
            <select
              aria-label="Move what is chosen to"
              className="min-h-8 rounded-std border border-line bg-case px-2"
              value=""
              onChange={(e) => put(here, e.target.value === 'none' ? null : Number(e.target.value))}
            >
              <option value="" disabled>
                Move to …
              </option>
              {folders.map((f) => (
                <option key={f.id} value={f.id}>
                  {f.name}
                </option>
              ))}
              <option value="none">no folder</option>
            </select>
            <Button look="quiet" onClick={() => setChosen(new Set())}>
              Choose nothing
            </Button>
          </>
        )}
        <Button look="quiet" className="ml-auto" onClick={() => setNaming('new')}>
          New folder
        </Button>
      </div>
      <table className="w-full">
        <thead>
          <tr className="border-b border-line text-left text-[12.5px] text-ink-soft">
            <th className="w-8 py-2">
              <span className="sr-only">Choose</span>
            </th>
            <th className="py-2 pr-4 font-medium">Title</th>
            <th className="py-2 pr-4 font-medium">Kind</th>
            <th className="py-2 pr-4 font-medium">Held on</th>
            <th className="py-2 pr-4 font-medium">People</th>
            <th className="py-2 pr-4 text-right font-medium">Observations</th>
            <th className="w-[130px] py-2 pr-4 font-medium">You have read</th>
            <th className="py-2">
              <span className="sr-only">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>{rows(loose)}</tbody>
        {folders.map((folder) => (
          <FolderRows
            key={folder.id}
            folder={folder}
            sources={found.filter((s) => s.folderId === folder.id)}
            looking={wanted !== ''}
            rows={rows}
            onName={() => setNaming(folder)}
            onDrop={(ids) => put(ids, folder.id)}
          />
        ))}
      </table>
      {found.length === 0 && <p className="py-6 text-center text-ink-soft">No source is called that. Words inside sources are found by Ctrl K.</p>}
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

interface FolderProps {
  folder: Folder;
  sources: readonly Line[];
  looking: boolean;
  rows: (sources: readonly Line[]) => React.ReactNode;
  onName: () => void;
  onDrop: (ids: number[]) => void;
}

function FolderRows({ folder, sources, looking, rows, onName, onDrop }: FolderProps) {
  const [opened, setOpened] = useState<boolean | null>(null);
  const [all, setAll] = useState(false);
  const [over, setOver] = useState(false);
  const open = opened ?? (looking || sources.length <= mostShown);
  const shown = all ? sources : sources.slice(0, mostShown);
  if (looking && sources.length === 0) return null;
  return (
    <tbody
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(draggedSources)) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        const dragged = e.dataTransfer.getData(draggedSources);
        if (!dragged) return;
        e.preventDefault();
        e.stopPropagation();
        onDrop(JSON.parse(dragged) as number[]);
      }}
    >
      <tr className={`border-b border-line ${over ? 'bg-wash' : ''}`}>
        <th colSpan={8} scope="rowgroup" className="pt-4 pb-1 text-left">
          <span className="flex items-center gap-2">
            <button
              type="button"
              aria-expanded={open}
              className="flex min-h-7 items-center gap-1.5 font-semibold hover:underline"
              onClick={() => setOpened(!open)}
            >
              {open ? <ChevronDown aria-hidden className="size-4" /> : <ChevronRight aria-hidden className="size-4" />}
              {folder.name}
            </button>
            <span className="text-[12.5px] font-normal text-ink-soft">{count(sources.length, 'source')}</span>
            <Button look="quiet" className="ml-auto font-normal" aria-label={`Change the folder ${folder.name}`} onClick={onName}>
              Change
            </Button>
          </span>
        </th>
      </tr>
      {open && rows(shown)}
      {open && shown.length < sources.length && (
        <tr>
          <td colSpan={8} className="py-2 text-center">
            <Button look="quiet" onClick={() => setAll(true)}>
              Show all {sources.length}
            </Button>
          </td>
        </tr>
      )}
    </tbody>
  );
}

function FolderDialog({ studyId, folder, inside, onClose }: { studyId: number; folder: Folder | null; inside: number; onClose: () => void }) {
  const [name, setName] = useState(folder?.name ?? '');
  const save = useWrite(
    () =>
      folder
        ? ask(api.PUT('/api/studies/{studyId}/folders/{id}', { params: { path: { studyId, id: folder.id } }, body: { name } }))
        : ask(api.POST('/api/studies/{studyId}/folders', { params: { path: { studyId } }, body: { name } })),
    { own: true },
  );
  const remove = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/folders/{id}', { params: { path: { studyId, id: folder!.id } } })));
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={folder ? 'Change the folder' : 'New folder'}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(undefined, { onSuccess: onClose });
        }}
      >
        <Problem of={save.error} />
        <TextField label="Name" autoFocus value={name} onChange={(e) => setName(e.target.value)} />
        <FormEnd
          save={folder ? 'Rename' : 'Make the folder'}
          onLeave={onClose}
          remove={
            folder
              ? { label: inside === 0 ? 'Remove' : `Remove; its ${count(inside, 'source')} stay`, act: () => remove.mutate(undefined, { onSuccess: onClose }) }
              : undefined
          }
        />
      </form>
    </Dialog>
  );
}
