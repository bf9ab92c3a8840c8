import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useSettled } from '@/parts/useSettled';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { count } from '@/parts/words';

const pause = 200;

interface Props {
  /** Null for a new one. */
  watch: Schemas['Watch'] | null;
  studies: readonly Schemas['StudyLine'][];
  studyId: number;
  onClose: () => void;
}

const mostShown = 6;
const numberOf = (typed: string) => (typed.trim() === '' || Number.isNaN(Number(typed)) ? null : Number(typed));

/** What a watch looks for, tried on what has arrived so far while it is written. */
export function WatchDialog({ watch, studies, studyId, onClose }: Props) {
  const channels = useQuery(queries.channels()).data ?? [];
  const [into, setInto] = useState(studyId);
  const [name, setName] = useState(watch?.name ?? '');
  const [given, setGiven] = useState({
    words: watch?.rule.words.join(', ') ?? '',
    allWords: watch?.rule.allWords ?? false,
    sender: watch?.rule.sender ?? '',
    ratingFrom: watch?.rule.ratingFrom?.toString() ?? '',
    ratingTo: watch?.rule.ratingTo?.toString() ?? '',
    channelId: watch?.rule.channelId?.toString() ?? '',
  });
  const [alsoPast, setAlsoPast] = useState(watch === null);
  const rule: Schemas['WatchRule'] = {
    words: given.words.split(',').flatMap((w) => (w.trim() ? [w.trim()] : [])),
    allWords: given.allWords,
    sender: given.sender.trim(),
    ratingFrom: numberOf(given.ratingFrom),
    ratingTo: numberOf(given.ratingTo),
    channelId: numberOf(given.channelId),
  };
  const asks = rule.words.length > 0 || rule.sender !== '' || rule.ratingFrom !== null || rule.ratingTo !== null || rule.channelId !== null;
  const later = useSettled(JSON.stringify(rule), pause);
  const tried = useQuery({ ...queries.tryWatch(later), enabled: asks, placeholderData: keepPreviousData });
  const body = { name, rule, alsoPast };
  const save = useWrite(
    () =>
      watch
        ? ask(api.PUT('/api/studies/{studyId}/watches/{id}', { params: { path: { studyId, id: watch.id } }, body: { given: body, version: watch.version } }))
        : ask(api.POST('/api/studies/{studyId}/watches', { params: { path: { studyId: into } }, body })),
    { own: true },
  );
  const remove = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/watches/{id}', { params: { path: { studyId, id: watch!.id } } })));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined, { onSuccess: onClose });
  };
  const field = (key: 'words' | 'sender' | 'ratingFrom' | 'ratingTo' | 'channelId') => ({
    value: given[key],
    onChange: (e: { target: { value: string } }) => setGiven({ ...given, [key]: e.target.value }),
  });
  const met = asks ? (tried.data ?? []) : [];
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={watch ? watch.name : 'New watch'}
      intro="Feedback that meets everything you give here goes into the study, and says which watch put it there."
      wide
    >
      <form onSubmit={submit}>
        <Problem of={save.error ?? (asks ? tried.error : null)} />
        <div className="grid grid-cols-2 gap-3">
          <TextField label="Name" placeholder="Cancellations" autoFocus value={name} onChange={(e) => setName(e.target.value)} />
          <Choice label="Into the study" value={into} disabled={watch !== null} onChange={(e) => setInto(Number(e.target.value))}>
            {studies.map((s) => (
              <option key={s.id} value={s.id}>
                {s.title}
              </option>
            ))}
          </Choice>
        </div>
        <div className="grid grid-cols-[minmax(0,1fr)_150px] gap-3">
          <TextField label="Words" hint="Each stands for all its forms: cancel finds cancelled and cancelling. Commas between." {...field('words')} />
          <Choice label="Of these words" value={String(given.allWords)} onChange={(e) => setGiven({ ...given, allWords: e.target.value === 'true' })}>
            <option value="false">one is enough</option>
            <option value="true">all</option>
          </Choice>
        </div>
        <div className="grid grid-cols-[minmax(0,1fr)_110px_110px_minmax(0,1fr)] gap-3">
          <TextField label="Sender" placeholder="anyone" {...field('sender')} />
          <TextField label="Rated from" inputMode="decimal" {...field('ratingFrom')} />
          <TextField label="to" inputMode="decimal" {...field('ratingTo')} />
          <Choice label="Channel" {...field('channelId')}>
            <option value="">any channel</option>
            {channels.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Choice>
        </div>
        <section aria-label="Tried on what has arrived" className="mb-4 rounded-std border border-line px-4 py-3">
          <h3 className="text-[13px] font-semibold">
            {asks ? `Of what has arrived, ${count(met.length, 'piece meets', 'pieces meet')} it` : 'Tried on what has arrived while you write'}
          </h3>
          <ul className="mt-1">
            {met.slice(0, mostShown).map((m) => (
              <li key={m.feedbackId} className="flex gap-3 text-[13px] leading-[1.6]">
                <span className="min-w-0 flex-1 truncate font-read">{m.title}</span>
                <span className="text-ink-soft">{m.met}</span>
              </li>
            ))}
          </ul>
          {met.length > mostShown && <p className="text-[12.5px] text-ink-soft">and {met.length - mostShown} more</p>}
          <label className="mt-2 flex items-center gap-2">
            <input type="checkbox" className="size-4 accent-verdigris" checked={alsoPast} onChange={(e) => setAlsoPast(e.target.checked)} />
            Put these into the study as well, not only what comes from now on
          </label>
        </section>
        <FormEnd
          save={watch ? 'Save' : 'Watch'}
          onLeave={onClose}
          busy={save.isPending}
          remove={watch ? { label: 'Remove', act: () => remove.mutate(undefined, { onSuccess: onClose }) } : undefined}
        />
      </form>
    </Dialog>
  );
}
