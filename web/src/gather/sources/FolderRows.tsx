import { ChevronDown, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { Button } from '@/parts/Button';
import { count } from '@/parts/words';
import { useDropped } from './dragged';
import type { RowInView } from './useRowsInView';

/** The rows of a folder that are in view. Sources are dropped onto them; what lies in no folder takes none. */
export function FolderBody({ onDrop, children }: { onDrop: ((ids: number[]) => void) | null; children: ReactNode }) {
  const { over, target } = useDropped(onDrop ?? (() => undefined));
  return (
    <tbody {...(onDrop ? target : {})} className={onDrop && over ? 'bg-wash' : ''}>
      {children}
    </tbody>
  );
}

interface Props {
  row: RowInView;
  folder: Schemas['Folder'];
  /** How many of its sources are listed. */
  inside: number;
  open: boolean;
  onOpen: (open: boolean) => void;
  onName: () => void;
}

export function FolderRow({ row, folder, inside, open, onOpen, onName }: Props) {
  return (
    <tr {...row} className="border-b border-line">
      <th colSpan={8} scope="rowgroup" className="pt-4 pb-1 text-left">
        <span className="flex items-center gap-2">
          <button type="button" aria-expanded={open} className="flex min-h-7 items-center gap-1.5 font-semibold hover:underline" onClick={() => onOpen(!open)}>
            {open ? <ChevronDown aria-hidden className="size-4" /> : <ChevronRight aria-hidden className="size-4" />}
            {folder.name}
          </button>
          <span className="text-[12.5px] font-normal text-ink-soft">{count(inside, 'source')}</span>
          <Button look="quiet" className="ml-auto font-normal" aria-label={`Change the folder ${folder.name}`} onClick={onName}>
            Change
          </Button>
        </span>
      </th>
    </tr>
  );
}
