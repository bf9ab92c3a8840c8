import { useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { ArrowRight, Pencil } from 'lucide-react';
import { useMemo, useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { refetchAfter } from '@/api/refetch';
import { AttributeDialog } from './AttributeDialog';
import { consents } from '@/parts/words';
import { attributeWords } from './attributeWords';
import type { Cell } from '@/parts/cells';
import { Grid, type GridColumn } from '@/parts/Grid';

type Person = Schemas['Participant'];
type Attribute = Schemas['ParticipantAttribute'];

interface Unsaved {
  value: string;
  /** Why it was refused; null while it is on its way. */
  problem: string | null;
}

const own = ['code', 'pseudonym', 'realName'] as const;
const consentKey = 'consent' as const;
const mostOffered = 40;

/** The people of the study and what is known of each. What is typed is shown at once, and stays in its cell with the reason when it is refused. */
export function ParticipantGrid({ studyId, participants }: { studyId: number; participants: Schemas['Participants'] }) {
  const cache = useQueryClient();
  const [changing, setChanging] = useState<Attribute | null>(null);
  const [unsaved, setUnsaved] = useState<ReadonlyMap<string, Unsaved>>(new Map());
  const { people, attributes } = participants;
  const columns = useMemo<GridColumn[]>(
    () => [
      { key: 'code', name: 'Code', width: 84 },
      { key: 'pseudonym', name: 'Pseudonym', width: 170, read: true },
      ...attributes.map((a) => ({
        key: String(a.id),
        name: a.name,
        width: 132,
        offered: a.kind === 'yesNo' ? ['yes', 'no'] : a.kind === 'choice' ? valuesOf(people, a.id) : [],
        head: (
          <button
            type="button"
            className="group flex min-h-8 w-full items-center gap-1 truncate text-left hover:text-ink"
            title={`${a.name}: ${attributeWords[a.kind]}. Change it`}
            aria-label={`Change the attribute ${a.name}`}
            onClick={() => setChanging(a)}
          >
            <span className="truncate">{a.name}</span>
            <Pencil aria-hidden className="size-3 shrink-0 opacity-0 group-hover:opacity-100 group-focus-visible:opacity-100" />
          </button>
        ),
      })),
      { key: consentKey, name: 'Consent', width: 104, offered: [...consents] },
      { key: 'realName', name: 'Real name', width: 170 },
    ],
    [attributes, people],
  );
  const data = useMemo(() => [participants, unsaved], [participants, unsaved]);
  const keyOf = ({ row, column }: Cell) => `${people[row]!.id} ${columns[column]!.key}`;
  const storedAt = ({ row, column }: Cell) => {
    const [person, { key }] = [people[row]!, columns[column]!];
    if (key === consentKey) return person.consent;
    const named = own.find((o) => o === key);
    return (named ? person[named] : person.values[key]) ?? '';
  };

  /** A cell as the server is told it. */
  const cellOf = ({ row, column }: Cell, value: string): Schemas['ParticipantCell'] => {
    const { key } = columns[column]!;
    const named = [...own, consentKey].find((n) => n === key);
    return { participantId: people[row]!.id, column: named ?? 'attribute', attributeId: named ? null : Number(key), value };
  };

  const set = async (values: { cell: Cell; value: string }[]) => {
    const changed = values.filter(({ cell, value }) => value !== storedAt(cell) || unsaved.has(keyOf(cell)));
    if (changed.length === 0) return;
    const written = new Map(changed.map(({ cell, value }) => [keyOf(cell), value]));
    const tell = (problems: ReadonlyMap<string, string | null>) =>
      setUnsaved((before) => new Map([...before, ...[...problems].map(([key, problem]): [string, Unsaved] => [key, { value: written.get(key)!, problem }])]));
    const each = (problem: string | null) => new Map([...written.keys()].map((key) => [key, problem]));
    tell(each(null));
    try {
      const { step, refused } = await ask(
        api.PUT('/api/studies/{studyId}/participants/cells', {
          params: { path: { studyId } },
          body: { cells: changed.map(({ cell, value }) => cellOf(cell, value)) },
        }),
      );
      await refetchAfter(cache, step);
      setUnsaved((before) => new Map([...before].filter(([key]) => !written.has(key))));
      tell(new Map(refused.map((r) => [`${r.participantId} ${r.attributeId ?? r.column}`, r.sentence])));
    } catch (problem) {
      tell(each((problem as Error).message));
    }
  };
  return (
    <>
      <Grid
        label="Participants"
        columns={columns}
        rows={people.length}
        data={data}
        rowKey={(row) => people[row]!.id}
        rowName={(row) => people[row]!.pseudonym}
        valueAt={(cell) => unsaved.get(keyOf(cell))?.value ?? storedAt(cell)}
        problemAt={(cell) => unsaved.get(keyOf(cell))?.problem ?? undefined}
        set={(values) => void set(values)}
        end={(row) => (
          <Link
            to="/studies/$studyId/gather/people/$personId"
            params={{ studyId, personId: people[row]!.id }}
            aria-label={`Open ${people[row]!.pseudonym}`}
            className="grid size-6 place-items-center rounded-std text-ink-soft hover:bg-wash hover:text-ink"
          >
            <ArrowRight aria-hidden className="size-4" />
          </Link>
        )}
      />
      {changing && (
        <AttributeDialog
          studyId={studyId}
          attribute={changing}
          filled={people.filter((p) => p.values[changing.id] !== undefined).length}
          onClose={() => setChanging(null)}
        />
      )}
    </>
  );
}

function valuesOf(people: readonly Person[], attributeId: number): string[] {
  return [...new Set(people.map((p) => p.values[attributeId]).filter((v) => v !== undefined))].sort().slice(0, mostOffered);
}
