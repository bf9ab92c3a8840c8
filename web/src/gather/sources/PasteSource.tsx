import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { api, ask, Refusal, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { FormEnd } from '@/parts/FormEnd';
import { Choice, Problem, TextArea, TextField } from '@/parts/Field';
import { count, kinds, kindWords } from '@/parts/words';
import { SessionChoice } from '@/gather/sessions/SessionChoice';
import { looksLikeTable, notesIn, tagHint, tagsNamed } from './pasted';

interface Props {
  studyId: number;
  people: readonly Schemas['Participant'][];
  onClose: () => void;
  onAdded: (sourceId: number) => void;
}

type As = 'source' | Schemas['NoteBreak'];

const mostShown = 3;

/** Pasting a text as one source, or as many notes; cells of a spreadsheet can become a survey. */
export function PasteSource({ studyId, people, onClose, onAdded }: Props) {
  const navigate = useNavigate();
  const tags = useQuery(queries.tags(studyId)).data ?? [];
  const [as, setAs] = useState<As>('source');
  const [given, setGiven] = useState({
    title: '',
    kind: 'interview' as Schemas['SourceKind'],
    heldOn: '',
    text: '',
    participantId: '',
    sessionId: '',
    tags: '',
  });
  const [problem, setProblem] = useState<Error | null>(null);
  const path = { studyId };
  const common = {
    kind: given.kind,
    heldOn: given.heldOn || null,
    text: given.text,
    sessionId: given.sessionId ? Number(given.sessionId) : null,
    participantIds: given.participantId ? [Number(given.participantId)] : [],
  };
  const paste = useWrite(() => ask(api.POST('/api/studies/{studyId}/sources/paste', { params: { path }, body: { ...common, title: given.title } })), {
    own: true,
  });
  const { known, fresh } = tagsNamed(given.tags, tags);
  const notes = useWrite(
    (at: Schemas['NoteBreak']) =>
      ask(
        api.POST('/api/studies/{studyId}/sources/notes', {
          params: { path },
          body: { ...common, break: at, folder: given.title, tagIds: known, newTags: fresh },
        }),
      ),
    { own: true },
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (as !== 'source') return notes.mutate(as, { onSuccess: onClose });
    paste.mutate(undefined, {
      onSuccess: (added) => {
        onClose();
        onAdded(added.step.id!);
      },
    });
  };
  const toSurvey = () =>
    void ask(
      api.POST('/api/studies/{studyId}/imports/pasted-table', { params: { path }, body: { name: given.title || 'Pasted table', text: given.text } }),
    ).then(
      ({ key }) => navigate({ to: '/studies/$studyId/gather/table/$table', params: { studyId, table: key } }),
      (refused: unknown) => setProblem(refused as Refusal),
    );
  const field = (key: 'title' | 'heldOn' | 'text' | 'participantId' | 'sessionId' | 'tags') => ({
    value: given[key],
    onChange: (e: { target: { value: string } }) => setGiven({ ...given, [key]: e.target.value }),
  });
  const made = as === 'source' ? [] : notesIn(given.text, as);
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Paste a text"
      intro="A transcript, notes, a diary page. Speakers and times at the start of lines are recognised."
      wide
    >
      <form onSubmit={submit}>
        <Problem of={problem ?? paste.error ?? notes.error} />
        <div className="grid grid-cols-[1fr_220px] gap-3">
          {as === 'source' ? (
            <TextField label="Title" hint="Such as the person’s code and pseudonym." autoFocus {...field('title')} />
          ) : (
            <TextField label="Folder" hint="They go into it together; empty for none." {...field('title')} />
          )}
          <Choice label="It becomes" value={as} onChange={(e) => setAs(e.target.value as As)}>
            <option value="source">one source</option>
            <option value="line">a note from each line</option>
            <option value="blankLine">a note between blank lines</option>
          </Choice>
        </div>
        <div className="grid grid-cols-4 gap-3">
          <Choice label="Kind" value={given.kind} onChange={(e) => setGiven({ ...given, kind: e.target.value as Schemas['SourceKind'] })}>
            {kinds.map((kind) => (
              <option key={kind} value={kind}>
                {kindWords[kind].one}
              </option>
            ))}
          </Choice>
          <TextField label="Held on" type="date" {...field('heldOn')} />
          <Choice label="Participant" {...field('participantId')}>
            <option value="">{as === 'source' || given.sessionId ? 'from speakers or session' : 'nobody in particular'}</option>
            {people.map((p) => (
              <option key={p.id} value={p.id}>
                {p.code} {p.pseudonym}
              </option>
            ))}
          </Choice>
          <SessionChoice studyId={studyId} {...field('sessionId')} />
        </div>
        <TextArea label="Text" rows={as === 'source' ? 12 : 6} {...field('text')} />
        {looksLikeTable(given.text) && (
          <p className="-mt-1 mb-3 flex items-center gap-3 rounded-std bg-brass-wash px-3 py-2">
            <span className="flex-1">These are cells of a table. If each row is one person’s answers, its columns can become attributes and answers.</span>
            <Button onClick={toSurvey}>Import it as a survey</Button>
          </p>
        )}
        {as !== 'source' && (
          <>
            <TextField
              label="Tags for each note"
              hint={given.tags.trim() === '' ? 'Names with commas between them; each note is marked whole.' : tagHint(known.length, fresh)}
              {...field('tags')}
            />
            <section aria-label="What it becomes" aria-live="polite" className="mb-4 rounded-std border border-line bg-paper px-4 py-2.5">
              <p className="font-semibold">{made.length === 0 ? 'No notes yet' : count(made.length, 'note')}</p>
              <ol className="font-read text-[14.5px]">
                {made.slice(0, mostShown).map((note, i) => (
                  <li key={i} className="truncate">
                    {note}
                  </li>
                ))}
              </ol>
              {made.length > mostShown && <p className="text-[12.5px] text-ink-soft">and {made.length - mostShown} more</p>}
            </section>
          </>
        )}
        <FormEnd
          save={as === 'source' ? 'Add the source' : made.length === 0 ? 'Add the notes' : `Add ${count(made.length, 'note')}`}
          onLeave={onClose}
          busy={paste.isPending || notes.isPending}
        />
      </form>
    </Dialog>
  );
}
