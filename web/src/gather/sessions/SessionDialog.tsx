import { useQuery } from '@tanstack/react-query';
import { useId, useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { TrailButton } from '@/trail/Trail';
import { count, sessionKinds, sessionKindWords } from '@/parts/words';
import { PeoplePicker } from '@/gather/participants/PeoplePicker';

interface Props {
  studyId: number;
  /** Null for a new one. */
  session: Schemas['Session'] | null;
  /** The sources that a new session is of. */
  sources?: readonly Schemas['SourceLine'][];
  people: readonly Schemas['Participant'][];
  onClose: () => void;
}

/** What was held: when, how long, with whom, led by whom. */
export function SessionDialog({ studyId, session, sources = [], people, onClose }: Props) {
  const list = useId();
  const team = useQuery(queries.accounts()).data ?? [];
  const [given, setGiven] = useState({
    title: session?.title ?? sources[0]?.title ?? '',
    kind: session?.kind ?? (sources.length > 0 && sources.some((s) => s.kind === 'groupDiscussion') ? 'groupDiscussion' : 'interview'),
    heldOn: session?.heldOn ?? sources.find((s) => s.heldOn)?.heldOn ?? '',
    minutes: session?.minutes?.toString() ?? '',
    moderator: session?.moderator ?? '',
  });
  const [present, setPresent] = useState<readonly number[]>(session?.participantIds ?? [...new Set(sources.flatMap((s) => s.peopleIds))]);
  const text = {
    title: given.title,
    kind: given.kind,
    heldOn: given.heldOn || null,
    minutes: given.minutes.trim() === '' ? null : Number(given.minutes),
    moderator: given.moderator,
    participantIds: [...present],
  };
  const save = useWrite(
    () =>
      session
        ? ask(api.PUT('/api/studies/{studyId}/sessions/{id}', { params: { path: { studyId, id: session.id } }, body: { text, version: session.version } }))
        : ask(api.POST('/api/studies/{studyId}/sessions', { params: { path: { studyId } }, body: { text, sourceIds: sources.map((s) => s.id) } })),
    { own: true },
  );
  const remove = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/sessions/{id}', { params: { path: { studyId, id: session!.id } } })));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined, { onSuccess: onClose });
  };
  const field = (key: 'title' | 'heldOn' | 'minutes' | 'moderator') => ({
    value: given[key],
    onChange: (e: { target: { value: string } }) => setGiven({ ...given, [key]: e.target.value }),
  });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={session ? session.title : sources.length > 0 ? `A session of ${count(sources.length, 'source')}` : 'New session'}
      intro="What was held on one day, with whom. Its sources take their participants from it where they name none themselves."
      wide
    >
      <form onSubmit={submit}>
        <Problem of={save.error} />
        <TextField label="Title" autoFocus {...field('title')} />
        <div className="grid grid-cols-[1fr_1fr_130px] gap-3">
          <Choice label="Kind" value={given.kind} onChange={(e) => setGiven({ ...given, kind: e.target.value as Schemas['SessionKind'] })}>
            {sessionKinds.map((kind) => (
              <option key={kind} value={kind}>
                {sessionKindWords[kind]}
              </option>
            ))}
          </Choice>
          <TextField label="Held on" type="date" {...field('heldOn')} />
          <TextField label="Length in minutes" type="number" min={1} step={1} {...field('minutes')} />
        </div>
        <TextField label="Moderator" hint="Who led it; one of the team, or anyone else." list={list} {...field('moderator')} />
        <datalist id={list}>
          {team.map((a) => (
            <option key={a.id} value={a.name} />
          ))}
        </datalist>
        <PeoplePicker legend="Participants" people={people} chosen={present} onChoose={setPresent} />
        <FormEnd
          save={session ? 'Save' : 'Add the session'}
          onLeave={onClose}
          busy={save.isPending}
          remove={session ? { label: 'Remove', act: () => remove.mutate(undefined, { onSuccess: onClose }) } : undefined}
        >
          {session && <TrailButton of={{ thing: 'session', id: session.id, name: session.title }} />}
        </FormEnd>
      </form>
    </Dialog>
  );
}
