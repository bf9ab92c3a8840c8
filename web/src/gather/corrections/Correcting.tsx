import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { useDeferredValue, useState, type KeyboardEvent } from 'react';
import { api, ask, askOfFile, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button, Key } from '@/parts/Button';
import { Problem } from '@/parts/Field';
import { CorrectionSide } from './CorrectionSide';
import { draft } from './draft';

/** A field that comes into focus puts its caret at its end; a text is read from its beginning. */
const atTheBeginning = ({ target, relatedTarget }: { target: HTMLTextAreaElement; relatedTarget: EventTarget | null }) => {
  if (relatedTarget === null && target.selectionEnd === target.value.length) {
    target.setSelectionRange(0, 0);
    target.scrollTop = 0;
  }
};

/** The text in a field, what the correction does to what was marked, and the one action. What is typed is kept in the browser until it is sent. */
export function Correcting({ studyId, source }: { studyId: number; source: Schemas['Source'] }) {
  const navigate = useNavigate();
  const { id } = source.line;
  // What was begun is what is corrected, whatever someone else does meanwhile.
  const [begun] = useState({ text: source.text, hash: source.textHash });
  const [text, setText] = useState(() => draft.of(id, begun.hash) ?? begun.text);
  const [older, setOlder] = useState(() => draft.older(id, begun.hash));
  const [problem, setProblem] = useState<Error | null>(null);
  const later = useDeferredValue(text);
  const changed = text !== begun.text;
  const back = () => void navigate({ to: '/studies/$studyId/mark', params: { studyId }, search: { source: id } });
  const save = useWrite(() => ask(api.PUT('/api/sources/{id}/text', { params: { path: { id } }, body: { text, basedOn: begun.hash } })), { own: true });
  const first = useQuery({ ...queries.firstText(id), enabled: source.corrected }).data;
  const take = (now: string) => {
    setText(now);
    if (now === begun.text) draft.drop(id, begun.hash);
    else draft.keep(id, begun.hash, now);
  };
  const correct = () =>
    save.mutate(undefined, {
      onSuccess: () => {
        draft.drop(id, begun.hash);
        back();
      },
    });
  const read = (file: File) => {
    setProblem(null);
    void askOfFile<Schemas['WordsOfSource']>(`/api/sources/${id}/correction-file`, file).then((words) => take(words.text), setProblem);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey) || !changed) return;
    event.preventDefault();
    correct();
  };
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_380px]">
      <div className="flex min-h-0 flex-col px-5 pt-4 pb-5">
        <div className="mb-3 flex items-center gap-3">
          <h1 className="truncate font-read text-[20px] font-semibold">Correct {source.line.title}</h1>
          <label className="ml-auto inline-flex min-h-8 cursor-pointer items-center rounded-std border border-line bg-case px-3 text-[13px] font-medium focus-within:outline-2 focus-within:outline-verdigris hover:bg-wash">
            Use the text of a file
            <input
              type="file"
              aria-label="Use the text of a file"
              className="sr-only"
              onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                if (file) read(file);
              }}
            />
          </label>
          {first && first.text !== text && <Button onClick={() => take(first.text)}>Use the text as it came in</Button>}
          {changed && (
            <Button look="quiet" onClick={() => take(begun.text)}>
              Begin again
            </Button>
          )}
        </div>
        {older && (
          <div role="status" className="mb-3 flex items-center gap-3 rounded-std border border-brass bg-brass-wash px-3 py-2">
            <p className="flex-1">You began to correct this text before someone else did. What you wrote is kept in this browser.</p>
            <Button
              onClick={() => {
                take(older.text);
                draft.drop(id, older.basedOn);
                setOlder(null);
              }}
            >
              Go on with mine
            </Button>
            <Button
              look="quiet"
              onClick={() => {
                draft.drop(id, older.basedOn);
                setOlder(null);
              }}
            >
              Drop it
            </Button>
          </div>
        )}
        <textarea
          aria-label={`Text of ${source.line.title}`}
          value={text}
          onChange={(e) => take(e.target.value)}
          onKeyDown={keys}
          spellCheck
          autoFocus
          onFocus={atTheBeginning}
          className="min-h-0 flex-1 resize-none rounded-std border border-line bg-case px-5 py-4 font-read text-[16px] leading-[26px]"
        />
      </div>
      <aside aria-label="What the correction does" className="flex min-h-0 flex-col border-l border-line px-5 pt-4 pb-5">
        <div className="min-h-0 flex-1 overflow-y-auto">
          <CorrectionSide id={id} basedOn={begun.hash} text={later} changed={changed} />
        </div>
        <Problem of={problem ?? save.error} />
        <div className="flex items-center gap-2 pt-3">
          <Button look="main" disabled={!changed || save.isPending} onClick={correct}>
            Correct the text
          </Button>
          <Key>Ctrl Enter</Key>
          <Link
            to="/studies/$studyId/mark"
            params={{ studyId }}
            search={{ source: id }}
            className="ml-auto inline-flex min-h-8 items-center px-2 text-ink-soft hover:text-ink"
          >
            Not now
          </Link>
        </div>
      </aside>
    </div>
  );
}
