import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Problem } from '@/parts/Field';
import { count } from '@/parts/words';

interface Props {
  studyId: number;
  source: Schemas['SourceLine'];
  people: readonly Schemas['Participant'][];
}

const isMatched = (speaker: Schemas['Speaker']) => speaker.participantId !== null || speaker.isTeam;

/** Whom each name in a transcript stands for: a participant, the team, or someone who becomes a participant here. */
export function Speakers({ studyId, source, people }: Props) {
  const [making, setMaking] = useState<Schemas['Speaker'] | null>(null);
  const [everywhere, setEverywhere] = useState(true);
  const others = (useQuery(queries.sources(studyId)).data ?? []).filter(
    (s) => s.id !== source.id && s.speakers.some((x) => !isMatched(x) && source.speakers.some((here) => here.label.toLowerCase() === x.label.toLowerCase())),
  );
  const match = useWrite(
    (given: { speakerId: number; participantId: number | null; isTeam: boolean }) =>
      ask(
        api.PUT('/api/sources/{id}/speakers/{speakerId}', {
          params: { path: { id: source.id, speakerId: given.speakerId } },
          body: { participantId: given.participantId, isTeam: given.isTeam, everywhere: everywhere && (given.participantId !== null || given.isTeam) },
        }),
      ),
    { quiet: true },
  );
  const choose = (speaker: Schemas['Speaker'], who: string) => {
    if (who === 'new') return setMaking(speaker);
    setMaking(null);
    match.mutate({ speakerId: speaker.id, participantId: /^\d+$/.test(who) ? Number(who) : null, isTeam: who === 'team' });
  };
  return (
    <section aria-label="Speakers" className="mb-5 rounded-std border border-line bg-paper p-4">
      <h3 className="mb-2 font-semibold">Who speaks in it</h3>
      <table className="w-full">
        <tbody>
          {source.speakers.map((speaker) => (
            <tr key={speaker.id}>
              <td className="py-1 pr-3 font-medium">{speaker.label}</td>
              <td className="py-1 pr-3 text-[12.5px] text-ink-soft">{count(speaker.turns, 'turn')}</td>
              <td className="w-[54%] py-1">
                <select
                  aria-label={`Who is ${speaker.label}?`}
                  className={`w-full rounded-std border bg-case px-2 py-1 ${speaker.participantId === null && !speaker.isTeam ? 'border-brass' : 'border-line'}`}
                  value={making?.id === speaker.id ? 'new' : (speaker.participantId ?? (speaker.isTeam ? 'team' : ''))}
                  onChange={(e) => choose(speaker, e.target.value)}
                >
                  <option value="">not matched yet</option>
                  <option value="team">one of the team</option>
                  {people.map((p) => (
                    <option key={p.id} value={p.id}>
                      {p.code} {p.pseudonym}
                    </option>
                  ))}
                  <option value="new">a new participant …</option>
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {others.length > 0 && (
        <label className="mt-2 flex items-center gap-2 text-[13px]">
          <input type="checkbox" checked={everywhere} onChange={(e) => setEverywhere(e.target.checked)} />
          Match the same name in {count(others.length, 'other source')} too, where it is not matched yet
        </label>
      )}
      {making && (
        <NewParticipant
          key={making.id}
          studyId={studyId}
          label={making.label}
          next={people.length + 1}
          onMade={(participantId) => {
            match.mutate({ speakerId: making.id, participantId, isTeam: false });
            setMaking(null);
          }}
        />
      )}
    </section>
  );
}

interface NewProps {
  studyId: number;
  label: string;
  next: number;
  onMade: (participantId: number) => void;
}

/** A code and a pseudonym are asked; the name in the transcript is kept as the real name, so that it never leaves the team. */
function NewParticipant({ studyId, label, next, onMade }: NewProps) {
  const [code, setCode] = useState(/^[A-Z]{1,2}\d+$/.test(label) ? label : `P${String(next).padStart(2, '0')}`);
  const [pseudonym, setPseudonym] = useState('');
  const add = useWrite(
    () =>
      ask(
        api.POST('/api/studies/{studyId}/participants', { params: { path: { studyId } }, body: { code, pseudonym, realName: label === code ? null : label } }),
      ),
    { own: true },
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate(undefined, { onSuccess: (step) => onMade(step.id!) });
  };
  const box = 'rounded-std border border-line bg-case px-2 py-1';
  return (
    <form onSubmit={submit} className="mt-3 border-t border-line pt-3">
      <Problem of={add.error} />
      <p className="mb-2 text-[13px] text-ink-soft">“{label}” stays with the team as the real name. By which pseudonym shall this person be called?</p>
      <div className="flex gap-2">
        <input aria-label="Code of the new participant" className={`${box} w-20`} value={code} onChange={(e) => setCode(e.target.value)} />
        <input
          aria-label="Pseudonym of the new participant"
          autoFocus
          className={`${box} flex-1`}
          placeholder="Such as Sorrel"
          value={pseudonym}
          onChange={(e) => setPseudonym(e.target.value)}
        />
        <Button look="main" type="submit">
          Add and match
        </Button>
      </div>
    </form>
  );
}
