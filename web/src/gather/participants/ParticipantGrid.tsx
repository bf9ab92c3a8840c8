import { Link } from '@tanstack/react-router';
import { ArrowRight, Pencil } from 'lucide-react';
import { useMemo, useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { AttributeDialog } from './AttributeDialog';
import { consents } from '@/parts/words';
import { attributeWords } from './attributeWords';
import type { Cell } from '@/parts/cells';
import { useWrittenCells } from '@/shared/useWrittenCells';
import { Grid, type GridColumn } from '@/parts/Grid';

type Person = Schemas['Participant'];
type Attribute = Schemas['ParticipantAttribute'];

const own = ['code', 'pseudonym', 'realName'] as const;
const consentKey = 'consent' as const;
const mostOffered = 40;

/** The people of the study and what is known of each. What is typed is shown at once, and stays in its cell with the reason when it is refused. */
export function ParticipantGrid({ studyId, participants }: { studyId: number; participants: Schemas['Participants'] }) {
  const [changing, setChanging] = useState<Attribute | null>(null);
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

  const written = useWrittenCells({
    keyOf: ({ row, column }) => `${people[row]!.id} ${columns[column]!.key}`,
    storedAt,
    write: async (changed) => {
      const cells = changed.map(({ cell, value }) => cellOf(cell, value));
      const { step, refused } = await ask(api.PUT('/api/studies/{studyId}/participants/cells', { params: { path: { studyId } }, body: { cells } }));
      return { step, refused: refused.map((r) => [`${r.participantId} ${r.attributeId ?? r.column}`, r.sentence] as const) };
    },
  });
  const { unsaved } = written;
  const data = useMemo(() => [participants, unsaved], [participants, unsaved]);
  return (
    <>
      <Grid
        label="Participants"
        columns={columns}
        rows={people.length}
        data={data}
        rowKey={(row) => people[row]!.id}
        rowName={(row) => people[row]!.pseudonym}
        valueAt={written.valueAt}
        problemAt={written.problemAt}
        set={written.set}
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
