import { useQuery } from '@tanstack/react-query';
import { useMemo, useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { AgreedChoice } from '@/gather/participants/AgreedChoice';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextArea } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { count } from '@/parts/words';
import { plants, proposed, unmatchedIn, type Proposed } from './pseudonyms';

const none: readonly never[] = [];

/** Names that nobody is matched to: how many there are, and the way to make participants of all of them. */
export function UnmatchedNames({ studyId, sources }: { studyId: number; sources: readonly Schemas['SourceLine'][] }) {
  const [open, setOpen] = useState(false);
  const names = useMemo(() => unmatchedIn(sources), [sources]);
  if (names.length === 0) return null;
  return (
    <p className="mb-3 flex items-center gap-3 rounded-std bg-brass-wash px-3 py-1.5 text-[13px]">
      <span className="min-w-0 flex-1 truncate">
        {names.length === 1 ? 'One name in the transcripts is' : `${names.length} names in the transcripts are`} matched to nobody:{' '}
        {names
          .slice(0, 6)
          .map((n) => n.label)
          .join(', ')}
        {names.length > 6 && ' …'}
      </span>
      <Button onClick={() => setOpen(true)}>Make them participants …</Button>
      {open && <MakeParticipants studyId={studyId} names={names} onClose={() => setOpen(false)} />}
    </p>
  );
}

interface Props {
  studyId: number;
  names: ReturnType<typeof unmatchedIn>;
  onClose: () => void;
}

/** All names at once become participants, each with a code and a pseudonym that can be changed before. */
function MakeParticipants({ studyId, names, onClose }: Props) {
  const people = useQuery(queries.participants(studyId)).data?.people ?? none;
  const kept = useQuery(queries.study(studyId)).data?.pseudonyms;
  const [typed, setList] = useState<string>();
  const list = typed ?? (kept === undefined || kept === '' ? plants : kept);
  const [left, setLeft] = useState<readonly string[]>([]);
  const [changed, setChanged] = useState<ReadonlyMap<string, Partial<Proposed>>>(new Map());
  const [listing, setListing] = useState(false);
  const rows = useMemo(
    () =>
      proposed(
        names.map((n) => n.label),
        people,
        list,
      ).map((row) => ({ ...row, ...changed.get(row.label) })),
    [names, people, list, changed],
  );
  const wanted = rows.filter((row) => !left.includes(row.label));
  const [agreedBy, setAgreedBy] = useState<Schemas['AgreedBy']>(null);
  const make = useWrite(() =>
    ask(
      api.POST('/api/studies/{studyId}/speakers/participants', {
        params: { path: { studyId } },
        body: { people: wanted, pseudonyms: typed ?? null, agreedBy },
      }),
    ),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate(undefined, { onSuccess: onClose });
  };
  const change = (label: string, to: Partial<Proposed>) => setChanged(new Map(changed).set(label, { ...changed.get(label), ...to }));
  const box = 'w-full rounded-std border border-line bg-case px-2 py-1';
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Make participants of names"
      intro="Each name stays with the team as the real one. It is matched wherever it speaks, in one step."
      wide
    >
      <form onSubmit={submit}>
        <Problem of={make.error} />
        <table className="mb-3 w-full text-[13px]">
          <thead className="text-left text-ink-soft">
            <tr>
              <th className="pb-1 font-medium">Name</th>
              <th className="w-[90px] pb-1 font-medium">Code</th>
              <th className="w-[220px] pb-1 font-medium">Pseudonym</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={row.label} className={left.includes(row.label) ? 'opacity-50' : ''}>
                <td className="py-1 pr-3">
                  <label className="flex min-h-7 items-center gap-2">
                    <input
                      type="checkbox"
                      checked={!left.includes(row.label)}
                      onChange={(e) => setLeft(e.target.checked ? left.filter((l) => l !== row.label) : [...left, row.label])}
                      className="accent-verdigris"
                    />
                    <span className="font-medium">{row.label}</span>
                    <span className="text-[12px] text-ink-soft">
                      {count(names[i]!.turns, 'turn')} in {count(names[i]!.sources, 'source')}
                    </span>
                  </label>
                </td>
                <td className="py-1 pr-3">
                  <input aria-label={`Code of ${row.label}`} className={box} value={row.code} onChange={(e) => change(row.label, { code: e.target.value })} />
                </td>
                <td className="py-1">
                  <input
                    aria-label={`Pseudonym of ${row.label}`}
                    className={box}
                    value={row.pseudonym}
                    onChange={(e) => change(row.label, { pseudonym: e.target.value })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {listing ? (
          <TextArea
            label="Pseudonyms to choose from"
            hint="With commas between them. They are kept with the study; who has a name already keeps it."
            rows={4}
            value={list}
            onChange={(e) => setList(e.target.value)}
          />
        ) : (
          <p className="mb-4">
            <Button look="quiet" onClick={() => setListing(true)}>
              Choose from other pseudonyms …
            </Button>
          </p>
        )}
        <AgreedChoice by={agreedBy} onBy={setAgreedBy} />
        <FormEnd save={`Make ${count(wanted.length, 'participant')}`} onLeave={onClose} busy={make.isPending || wanted.length === 0} />
      </form>
    </Dialog>
  );
}
