import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { GiveBlind } from '@/shared/GiveBlind';
import { useSourceCounts } from '@/shared/useSourceCounts';
import { Dialog } from '@/parts/Dialog';
import { FormEnd } from '@/parts/FormEnd';
import { Choice, Problem, TextField } from '@/parts/Field';
import { TrailButton } from '@/trail/Trail';
import { count, kinds, kindWords } from '@/parts/words';
import { LineUp } from '@/gather/sessions/LineUp';
import { PeoplePicker } from '@/gather/participants/PeoplePicker';
import { SessionChoice } from '@/gather/sessions/SessionChoice';
import { NamesToLookAt } from '@/gather/turns/NamesToLookAt';
import { Speakers } from '@/gather/turns/Speakers';
import { TurnReadings } from '@/gather/turns/TurnReadings';

interface Props {
  studyId: number;
  source: Schemas['SourceLine'];
  people: readonly Schemas['Participant'][];
  onClose: () => void;
}

/** One source: its facts, and whom each speaker stands for. */
export function SourceDialog({ studyId, source, people, onClose }: Props) {
  const [title, setTitle] = useState(source.title);
  const [kind, setKind] = useState(source.kind);
  const [heldOn, setHeldOn] = useState(source.heldOn ?? '');
  const [present, setPresent] = useState(source.participantIds);
  const [sessionId, setSessionId] = useState(String(source.sessionId ?? ''));
  const [giving, setGiving] = useState(false);
  const path = { id: source.id };
  const observations = useSourceCounts(studyId)(source.id);
  const save = useWrite(
    () =>
      ask(
        api.PUT('/api/sources/{id}', {
          params: { path },
          body: { title, kind, heldOn: heldOn || null, sessionId: sessionId ? Number(sessionId) : null, participantIds: present },
        }),
      ),
    {
      own: true,
    },
  );
  const remove = useWrite(() => ask(api.DELETE('/api/sources/{id}', { params: { path } })));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined, { onSuccess: onClose });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={source.title} intro={source.fileName ?? 'Pasted text'} wide>
      {source.length > 0 && <NamesToLookAt studyId={studyId} sourceId={source.id} title={source.title} />}
      {source.speakers.length > 0 && <Speakers studyId={studyId} source={source} people={people} />}
      {source.length > 0 && !/\.(vtt|srt)$/i.test(source.fileName ?? '') && <TurnReadings sourceId={source.id} />}
      {source.length > 0 && source.sessionId !== null && <LineUp source={source} />}
      <p className="mb-3 text-[13px]">
        <button type="button" className="min-h-6 text-sky hover:underline" onClick={() => setGiving(true)}>
          Have it tagged blind
        </button>
      </p>
      {giving && <GiveBlind studyId={studyId} sourceId={source.id} onClose={() => setGiving(false)} />}
      <form onSubmit={submit}>
        <Problem of={save.error} />
        <TextField label="Title" value={title} onChange={(e) => setTitle(e.target.value)} />
        <div className="grid grid-cols-3 gap-3">
          <Choice label="Kind" value={kind} onChange={(e) => setKind(e.target.value as Schemas['SourceKind'])}>
            {kinds.map((k) => (
              <option key={k} value={k}>
                {kindWords[k].one}
              </option>
            ))}
          </Choice>
          <TextField label="Held on" type="date" value={heldOn} onChange={(e) => setHeldOn(e.target.value)} />
          <SessionChoice studyId={studyId} value={sessionId} onChange={(e) => setSessionId(e.target.value)} />
        </div>
        <PeoplePicker
          legend="Also there, without a speaker’s name"
          {...(sessionId && present.length === 0 ? { hint: 'Nobody is named here, so the participants of its session count.' } : {})}
          people={people}
          chosen={present}
          onChoose={setPresent}
        />
        <FormEnd
          save="Save"
          leave="Close"
          onLeave={onClose}
          remove={{
            label: observations > 0 ? `Remove with its ${count(observations, 'observation')}` : 'Remove',
            act: () => remove.mutate(undefined, { onSuccess: onClose }),
          }}
        >
          {source.mediaType !== null && (
            <a
              href={`/api/sources/${source.id}/original`}
              download
              className="inline-flex min-h-8 items-center rounded-std px-3 text-[13px] font-medium text-ink-soft hover:bg-wash hover:text-ink"
            >
              Original file
            </a>
          )}
          <TrailButton of={{ thing: 'source', id: source.id, name: source.title }} />
        </FormEnd>
      </form>
    </Dialog>
  );
}
