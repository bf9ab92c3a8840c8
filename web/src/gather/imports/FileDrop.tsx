import { useNavigate } from '@tanstack/react-router';
import { useState, type DragEvent, type ReactNode } from 'react';
import { toast } from 'sonner';
import { count } from '@/parts/words';
import { useImports } from './ImportTray';
import { filesIn } from './sending';

/** Files and folders that are dragged over something and dropped on it; what lies nearer takes them first. */
function useFileDrop(onFiles: (files: readonly File[]) => void) {
  const [over, setOver] = useState(false);
  return {
    over: over ? 'bg-wash outline-2 -outline-offset-8 outline-verdigris outline-dashed' : '',
    handlers: {
      onDragOver: (event: DragEvent) => {
        if (event.defaultPrevented || !event.dataTransfer.types.includes('Files')) return setOver(false);
        event.preventDefault();
        setOver(true);
      },
      onDragLeave: (event: DragEvent) => !event.currentTarget.contains(event.relatedTarget as Node | null) && setOver(false),
      onDrop: (event: DragEvent) => {
        setOver(false);
        if (event.defaultPrevented || !event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        void filesIn(event.dataTransfer).then(onFiles);
      },
    },
  };
}

/** A page of the room onto which files and folders can be dropped anywhere. */
export function FileDrop({ onFiles, children }: { onFiles: (files: readonly File[]) => void; children: ReactNode }) {
  const { over, handlers } = useFileDrop(onFiles);
  return (
    <div data-scrolls className={`h-full overflow-y-auto ${over}`} {...handlers}>
      <div className="mx-auto max-w-[1240px] px-5 py-6">{children}</div>
    </div>
  );
}

/** Files that are dropped on any other page of a study come in as interviews; which they are can be changed where they are listed. */
export function StudyFileDrop({ studyId, children }: { studyId: number; children: ReactNode }) {
  const navigate = useNavigate();
  const { add } = useImports(studyId);
  const { over, handlers } = useFileDrop((files) => {
    if (files.length === 0) return;
    add(files, { kind: 'interview', folderId: null, attachment: false });
    toast(`${count(files.length, 'file')} ${files.length === 1 ? 'is' : 'are'} coming in.`, {
      action: { label: 'Show', onClick: () => void navigate({ to: '/studies/$studyId/gather', params: { studyId } }) },
    });
  });
  return (
    <div className={`h-full ${over}`} {...handlers}>
      {children}
    </div>
  );
}
