import type { EvidenceOf } from '@/api/queries';
import { whereOf } from './filter/where';

/** Of what someone picks on the people strip: one person's, or everyone's. */
export const ofPerson = (of: EvidenceOf, person: number | null): EvidenceOf => (person === null ? of : { ...of, cell: { participantIds: [person] } });

/** The cell of a table as addresses named it before they spoke the words of conditions. */
const olderCell = ({ participantId, sourceId, sourceKind, attributeId, value }: Record<string, unknown>) => ({
  participantIds: [participantId],
  sourceIds: [sourceId],
  sourceKinds: [sourceKind],
  values: [{ attributeId, value }],
});

const id = (given: unknown) => (typeof given === 'number' && Number.isFinite(given) ? given : undefined);

/** What an address asks for, which anybody may have written; undefined where it asks for no evidence. */
export function evidenceOf(given: unknown): EvidenceOf | undefined {
  if (typeof given !== 'object' || given === null) return undefined;
  const v = given as Record<string, unknown>;
  const overlap = v['overlap'] === 'touching' || v['overlap'] === 'sameObservation' ? v['overlap'] : undefined;
  const of = { tagId: id(v['tagId']), otherTagId: id(v['otherTagId']), overlap, themeId: id(v['themeId']), cell: whereOf(v['cell'] ?? olderCell(v)) };
  return Object.fromEntries(Object.entries(of).filter(([, one]) => one !== undefined)) as EvidenceOf;
}
