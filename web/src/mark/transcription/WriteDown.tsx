import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { PickByTitle } from '@/parts/PickByTitle';

interface Props {
  recording: Schemas['SourceLine'];
  /** Sources with words that do not run with it. */
  others: readonly Schemas['SourceLine'][];
  /** A transcript runs with it now. */
  onAttached: (id: number) => void;
}

const languageName = (tag: string) => (tag === 'any' ? 'Whatever it hears' : (new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag));

/** What can be done so that words run with a recording: a service writes them down, or a transcript that is here is attached. */
export function WriteDown({ recording, others, onAttached }: Props) {
  const cache = useQueryClient();
  const query = queries.transcription(recording.id);
  const { data: facts } = useQuery({ ...query, refetchInterval: (q) => (q.state.data?.working ? 1000 : false) });
  const [open, setOpen] = useState<'service' | 'attach' | null>(null);
  const stop = useMutation({
    mutationFn: () => ask(api.DELETE('/api/sources/{id}/transcription', { params: { path: { id: recording.id } } })),
    onSuccess: (next) => cache.setQueryData(query.queryKey, next),
  });
  const attach = useWrite((id: number) => ask(api.PUT('/api/sources/{id}/in-step-with', { params: { path: { id } }, body: { sourceId: recording.id } })));
  if (!facts) return null;
  return (
    <span className="flex flex-wrap items-center gap-x-3 gap-y-1">
      {facts.working ? (
        <>
          <span role="status">Being transcribed, {Math.round(facts.progress * 100)} %</span>
          <Button look="quiet" onClick={() => stop.mutate()}>
            Stop
          </Button>
        </>
      ) : (
        <>
          <Button look="quiet" onClick={() => setOpen('service')}>
            Transcribe …
          </Button>
          {others.length > 0 && (
            <Button look="quiet" onClick={() => setOpen('attach')}>
              Attach a transcript …
            </Button>
          )}
          {facts.said !== '' && <span className="text-oxblood">{facts.said}</span>}
        </>
      )}
      {open === 'service' && (
        <AskService recording={recording} facts={facts} onClose={() => setOpen(null)} onBegun={(next) => cache.setQueryData(query.queryKey, next)} />
      )}
      {open === 'attach' && (
        <PickByTitle
          title={`Which transcript runs with ${recording.title}?`}
          label="Transcript"
          none="No source with words is called so."
          items={others.map((s) => ({ id: String(s.id), title: s.title, pick: () => attach.mutate(s.id, { onSuccess: () => onAttached(s.id) }) }))}
          onClose={() => setOpen(null)}
        />
      )}
    </span>
  );
}

interface AskProps {
  recording: Schemas['SourceLine'];
  facts: Schemas['TranscriptionFacts'];
  onClose: () => void;
  onBegun: (facts: Schemas['TranscriptionFacts']) => void;
}

/** What the service has to know. */
function AskService({ recording, facts, onClose, onBegun }: AskProps) {
  const [language, setLanguage] = useState(facts.languages[0]!);
  const [speakers, setSpeakers] = useState(String(Math.max(2, recording.peopleIds.length + 1)));
  const begin = useMutation({
    mutationFn: () =>
      ask(api.POST('/api/sources/{id}/transcription', { params: { path: { id: recording.id } }, body: { language, speakers: Number(speakers) } })),
    onSuccess: (next) => {
      onBegun(next);
      onClose();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    begin.mutate();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Transcribe" intro={facts.says}>
      <form onSubmit={submit}>
        <Problem of={begin.error} />
        <Choice label="Language" value={language} onChange={(e) => setLanguage(e.target.value)}>
          {facts.languages.map((tag) => (
            <option key={tag} value={tag}>
              {languageName(tag)}
            </option>
          ))}
        </Choice>
        <TextField
          label="How many people speak"
          type="number"
          min={1}
          max={12}
          step={1}
          required
          autoFocus
          value={speakers}
          onChange={(e) => setSpeakers(e.target.value)}
          hint="With you, if you can be heard. You say who is who afterwards."
        />
        <FormEnd save="Transcribe" onLeave={onClose} busy={begin.isPending} />
      </form>
    </Dialog>
  );
}
