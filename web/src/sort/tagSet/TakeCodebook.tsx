import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, askOfFile, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextArea } from '@/parts/Field';
import { count } from '@/parts/words';

type Line = Schemas['CodebookLine'];
type Planned = Schemas['PlannedLine'];

const fateWords: Record<Planned['fate'], string> = { added: 'new', changed: 'changed', same: 'the same already', left: 'left out' };
const changeWords: Record<Schemas['CodebookChange'], string> = {
  name: 'name',
  place: 'what it is under',
  definition: 'what it is',
  isNot: 'what it is not',
  aliases: 'other names',
  state: 'state',
  scale: 'scale',
  colour: 'colour',
  bundles: 'bundles',
};
const matchWords: Record<NonNullable<Planned['match']>, string> = { id: 'by its id', name: 'by its name', alias: 'by another name' };

/** Lines in the preview, at most; all are imported. */
const mostShown = 300;

/** Tags come in from a spreadsheet or another codebook, to a study or to the shared set; what happens to each line is shown first. */
export function TakeCodebook({ studyId, onClose }: { studyId: number | undefined; onClose: () => void }) {
  const [text, setText] = useState('');
  const [lines, setLines] = useState<Line[] | null>(null);
  const [problem, setProblem] = useState<Error | null>(null);
  const [fate, setFate] = useState<Planned['fate'] | null>(null);
  const plan = useQuery(queries.codebookPlan(studyId, lines)).data;
  const read = async (file: File) => {
    setProblem(null);
    try {
      setLines(await askOfFile<Line[]>(studyId === undefined ? '/api/tags/codebook/file' : `/api/studies/${studyId}/codebook/file`, file));
    } catch (refused) {
      setProblem(refused as Error);
    }
  };
  const take = useWrite(
    () =>
      studyId === undefined
        ? ask(api.POST('/api/tags/codebook', { body: { lines: lines! } }))
        : ask(api.POST('/api/studies/{studyId}/codebook', { params: { path: { studyId } }, body: { lines: lines! } })),
    { own: true },
  );
  const of = (one: Planned['fate']) => plan?.filter((p) => p.fate === one).length ?? 0;
  const shown = plan?.filter((p) => fate === null || p.fate === fate) ?? [];
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Import tags"
      intro={`From a spreadsheet, or from the codebook of another program.${studyId === undefined ? ' Every study shares them.' : ''}`}
    >
      <Problem of={problem ?? take.error} />
      {lines === null || !plan ? (
        <>
          <TextArea
            label="Paste cells"
            hint="A tag in each line: its name, then what it is. With a first line such as Tag, Under, Definition, What it is not, Also called, Scale, In bundles, the columns may stand in any order. A name like a / b stands under another."
            rows={9}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <div className="flex items-center gap-3">
            <Button look="main" disabled={text.trim() === ''} onClick={() => void read(new File([text], 'pasted.txt'))}>
              See what happens
            </Button>
            <label className="inline-flex min-h-8 cursor-pointer items-center rounded-std border border-line px-3 text-[13px] font-medium focus-within:outline-2 focus-within:outline-verdigris hover:bg-wash">
              Choose a file (.csv, .xlsx, .docx, .qdc)
              <input
                type="file"
                accept=".csv,.xlsx,.docx,.qdc"
                className="sr-only"
                onChange={(e) => {
                  const [file] = e.target.files ?? [];
                  e.target.value = '';
                  if (file) void read(file);
                }}
              />
            </label>
          </div>
        </>
      ) : (
        <>
          <p className="mb-2 flex flex-wrap gap-x-4 text-[13px]">
            {(Object.keys(fateWords) as Planned['fate'][])
              .filter((one) => of(one) > 0)
              .map((one) => (
                <button
                  key={one}
                  type="button"
                  aria-pressed={fate === one}
                  className={`min-h-6 hover:underline ${fate === one ? 'font-semibold' : ''} ${one === 'left' ? 'text-brass' : ''}`}
                  onClick={() => setFate(fate === one ? null : one)}
                >
                  {of(one)} {fateWords[one]}
                </button>
              ))}
          </p>
          <ul aria-label="What happens" tabIndex={0} className="mb-4 max-h-[46vh] overflow-y-auto border-y border-line text-[13px]">
            {shown.slice(0, mostShown).map((p, i) => (
              <li key={i} className="border-b border-line py-1.5 last:border-b-0">
                <span className="flex items-baseline gap-2">
                  <span className="min-w-0 flex-1 wrap-anywhere">
                    {p.above.length > 0 && <span className="text-ink-soft">{p.above.join(' / ')} / </span>}
                    {p.isBundle && <span className="text-ink-soft">bundle </span>}
                    <span className="font-medium">{p.name || 'a line without a name'}</span>
                  </span>
                  <span className={p.fate === 'left' ? 'text-brass' : 'text-ink-soft'}>
                    {p.problem ?? (p.fate === 'changed' ? `changed: ${p.changes.map((c) => changeWords[c]).join(', ')}` : fateWords[p.fate])}
                    {p.match && p.match !== 'name' && `, known ${matchWords[p.match]}`}
                  </span>
                </span>
                {p.definition !== '' && p.fate !== 'left' && <span className="block wrap-anywhere text-ink-soft">{p.definition}</span>}
              </li>
            ))}
          </ul>
          {shown.length > mostShown && <p className="mb-3 text-ink-soft">And {shown.length - mostShown} more.</p>}
          <div className="flex items-center gap-3">
            <Button look="main" disabled={of('added') + of('changed') === 0 || take.isPending} onClick={() => take.mutate(undefined, { onSuccess: onClose })}>
              {of('added') + of('changed') === 0 ? 'Nothing in it is new' : `Import ${count(of('added') + of('changed'), 'tag')}`}
            </Button>
            <Button look="quiet" onClick={() => setLines(null)}>
              Back
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
