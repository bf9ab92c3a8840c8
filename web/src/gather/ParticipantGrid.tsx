import { useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { ArrowRight, Pencil } from 'lucide-react';
import { useMemo, useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { AttributeDialog } from './AttributeDialog';
import { consents } from '@/parts/words';
import { attributeWords } from './attributeWords';
import type { Cell } from './grid/cells';
import { Grid, type GridColumn } from './grid/Grid';

type Person = Schemas['Participant'];
type Attribute = Schemas['ParticipantAttribute'];

interface Unsaved {
  value: string;
  /** Why it was refused; null while it is on its way. */
  problem: string | null;
}

const own = ['code', 'pseudonym', 'realName'] as const;
const consentKey = 'consent';
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

  const set = async (values: { cell: Cell; value: string }[]) => {
    const changed = values.filter(({ cell, value }) => value !== storedAt(cell) || unsaved.has(keyOf(cell)));
    if (changed.length === 0) return;
    const keys = changed.map(({ cell }) => keyOf(cell));
    const tell = (problem: string | null, of: readonly string[]) =>
      setUnsaved(
        (before) =>
          new Map([...before, ...changed.flatMap(({ value }, i): [string, Unsaved][] => (of.includes(keys[i]!) ? [[keys[i]!, { value, problem }]] : []))]),
      );
    const saved = (of: readonly string[]) => setUnsaved((before) => new Map([...before].filter(([key]) => !of.includes(key))));
    tell(null, keys);
    const facts = changed.flatMap(({ cell, value }, i) => {
      const { key } = columns[cell.column]!;
      return key === consentKey || own.some((o) => o === key)
        ? []
        : [{ key: keys[i]!, fact: { participantId: people[cell.row]!.id, attributeId: Number(key), value } }];
    });
    const attempt = async (of: readonly string[], request: () => Promise<unknown>) => {
      try {
        await request();
        await cache.invalidateQueries();
        saved(of);
      } catch (problem) {
        tell((problem as Error).message, of);
      }
    };
    if (facts.length > 0)
      await attempt(
        facts.map((f) => f.key),
        () => ask(api.PUT('/api/studies/{studyId}/participants/values', { params: { path: { studyId } }, body: { values: facts.map((f) => f.fact) } })),
      );
    const consent = changed.flatMap(({ cell, value }, i) =>
      columns[cell.column]!.key === consentKey ? [{ key: keys[i]!, id: people[cell.row]!.id, value }] : [],
    );
    for (const said of new Set(consent.map((c) => c.value))) {
      const of = consent.filter((c) => c.value === said);
      const known = consents.find((c) => c === said.trim().toLowerCase());
      if (!known) {
        tell(`Consent is one of ${consents.join(', ')}.`, of.map((c) => c.key)); // prettier-ignore
        continue;
      }
      await attempt(
        of.map((c) => c.key),
        () =>
          ask(
            api.PUT('/api/studies/{studyId}/participants/consent', {
              params: { path: { studyId } },
              body: { participantIds: of.map((c) => c.id), consent: known },
            }),
          ),
      );
    }
    // Codes and names are few; each is held against the others' by the server.
    for (const row of new Set(changed.filter(({ cell }) => own.some((o) => o === columns[cell.column]!.key)).map(({ cell }) => cell.row))) {
      const of = changed
        .map(({ cell }, i) => ({ cell, key: keys[i]!, value: changed[i]!.value }))
        .filter(({ cell }) => cell.row === row && own.some((o) => o === columns[cell.column]!.key));
      const { id, code, pseudonym, realName } = { ...people[row]!, ...Object.fromEntries(of.map(({ cell, value }) => [columns[cell.column]!.key, value])) };
      await attempt(
        of.map((o) => o.key),
        () =>
          ask(
            api.PUT('/api/studies/{studyId}/participants/{id}', { params: { path: { studyId, id } }, body: { code, pseudonym, realName: realName || null } }),
          ),
      );
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
