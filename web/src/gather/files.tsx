import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Check, LoaderCircle, X } from 'lucide-react';
import { useState } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { count } from '@/parts/words';

interface FileState {
  name: string;
  state: 'waiting' | 'sending' | 'added' | 'refused';
  said: string;
}

/** Files on their way in, one by one, so that a bad one stops no other. */
export function useFiles(studyId: number) {
  const cache = useQueryClient();
  const largest = useQuery(queries.me()).data?.largestFile ?? Infinity;
  const [states, setStates] = useState<FileState[]>([]);
  const add = async (chosen: File[]) => {
    if (chosen.length === 0) return;
    setStates(chosen.map((f) => ({ name: f.name, state: 'waiting', said: '' })));
    const tell = (i: number, state: FileState['state'], said: string) => setStates((all) => all.map((s, j) => (j === i ? { ...s, state, said } : s)));
    for (const [i, file] of chosen.entries()) {
      if (file.size > largest) {
        tell(i, 'refused', `This file is ${Math.round(file.size / 1e6)} MB, more than any text. Check that it is the right one, or split it.`);
        continue;
      }
      tell(i, 'sending', '');
      try {
        const added = await ask(
          api.POST('/api/studies/{studyId}/sources/file', {
            params: { path: { studyId } },
            body: { file: file as unknown as string, kind: 'interview' },
            bodySerializer: () => {
              const form = new FormData();
              form.append('file', file);
              form.append('kind', 'interview');
              return form;
            },
          }),
        );
        const turns = added.speakers > 0 ? `${count(added.turns, 'turn')} by ${count(added.speakers, 'speaker')}` : count(added.turns, 'paragraph');
        tell(i, 'added', [turns, ...added.remarks].join('. '));
      } catch (problem) {
        tell(i, 'refused', (problem as Error).message);
      }
    }
    await cache.invalidateQueries();
  };
  return { states, add, clear: () => setStates([]) };
}

const icons = {
  waiting: null,
  sending: <LoaderCircle aria-hidden className="size-4 animate-spin text-ink-soft" />,
  added: <Check aria-hidden className="size-4 text-verdigris" />,
  refused: <X aria-hidden className="size-4 text-oxblood" />,
};
const stateWords = { waiting: 'waiting', sending: 'coming in', added: 'added', refused: 'not added' };

/** What became of each file, in words. */
export function FileResults({ files }: { files: ReturnType<typeof useFiles> }) {
  if (files.states.length === 0) return null;
  const busy = files.states.some((s) => s.state === 'waiting' || s.state === 'sending');
  return (
    <section aria-label="Files" aria-live="polite" className="mb-4 rounded-std border border-line bg-case px-4 py-3">
      <ul className="space-y-1">
        {files.states.map((file, i) => (
          <li key={i} className="flex items-start gap-2">
            <span className="mt-0.5 size-4 shrink-0">{icons[file.state]}</span>
            <span className="w-[220px] shrink-0 truncate font-medium" title={file.name}>
              {file.name}
            </span>
            <span className="w-[70px] shrink-0 text-ink-soft">{stateWords[file.state]}</span>
            <span className={file.state === 'refused' ? 'text-oxblood' : 'text-ink-soft'}>{file.said}</span>
          </li>
        ))}
      </ul>
      {!busy && (
        <Button look="quiet" className="mt-2" onClick={files.clear}>
          Put this list away
        </Button>
      )}
    </section>
  );
}
