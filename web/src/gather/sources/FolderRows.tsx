import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { Button } from '@/parts/Button';
import { count } from '@/parts/words';
import { useDropped } from './dragged';

type Line = Schemas['SourceLine'];
type Folder = Schemas['Folder'];

/** A folder with more sources than this begins closed, and shows so many until asked for all. */
const mostShown = 60;

interface FolderProps {
  folder: Folder;
  sources: readonly Line[];
  looking: boolean;
  rows: (sources: readonly Line[]) => ReactNode;
  onName: () => void;
  onDrop: (ids: number[]) => void;
}

/** A folder with its sources; sources are dropped onto it. */
export function FolderRows({ folder, sources, looking, rows, onName, onDrop }: FolderProps) {
  const [opened, setOpened] = useState<boolean | null>(null);
  const [all, setAll] = useState(false);
  const { over, target } = useDropped(onDrop);
  const open = opened ?? (looking || sources.length <= mostShown);
  const shown = all ? sources : sources.slice(0, mostShown);
  if (looking && sources.length === 0) return null;
  return (
    <tbody {...target}>
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
