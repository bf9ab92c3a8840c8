import type { Schemas } from '@/api/client';

export const kindWords: Record<Schemas['SourceKind'], { one: string; many: string }> = {
  interview: { one: 'interview', many: 'Interviews' },
  usabilityTest: { one: 'usability test', many: 'Usability tests' },
  groupDiscussion: { one: 'group discussion', many: 'Group discussions' },
  fieldNotes: { one: 'field notes', many: 'Field notes' },
  diary: { one: 'diary', many: 'Diaries' },
  survey: { one: 'survey', many: 'Surveys' },
  feedback: { one: 'feedback', many: 'Feedback' },
  document: { one: 'document', many: 'Documents' },
};

export const sessionKindWords: Record<Schemas['SessionKind'], string> = {
  interview: 'interview',
  usabilityTest: 'usability test',
  groupDiscussion: 'group discussion',
  visit: 'visit',
};

export const sessionKinds = Object.keys(sessionKindWords) as Schemas['SessionKind'][];

/** What each state of consent means, where its word does not say it. */
export const consentMeans: Record<Schemas['Consent'], string> = {
  asked: 'no answer noted: not published',
  given: '',
  limited: 'words stay with the team',
  withdrawn: 'out of every published page',
};

/** How someone has said yes. */
export const agreedByWords: Record<NonNullable<Schemas['AgreedBy']>, string> = {
  form: 'yes, in the form',
  signature: 'yes, by signature',
  word: 'yes, by word',
};

export const consents = Object.keys(consentMeans) as Schemas['Consent'][];

export const kinds = Object.keys(kindWords) as Schemas['SourceKind'][];

export const roles: Schemas['Role'][] = ['steward', 'researcher', 'noteTaker', 'reader'];

export const roleWords: Record<Schemas['Role'], { one: string; may: string }> = {
  steward: { one: 'steward', may: 'runs the workspace: invites people, sees every study' },
  researcher: { one: 'researcher', may: 'does everything in the studies of their teams, and publishes' },
  noteTaker: { one: 'note-taker', may: 'adds sources and marks; does not publish, and takes away only what is their own' },
  reader: { one: 'reader', may: 'sees what is published, by its link' },
};

export const levelWords: Record<Schemas['EvidenceLevel'], string> = {
  noEvidence: 'No evidence yet',
  singleVoice: 'Single voice',
  echoed: 'Echoed',
  corroborated: 'Corroborated',
  contested: 'Contested',
};

export const stanceWords: Record<Schemas['Stance'], string> = {
  supports: 'supports',
  contradicts: 'contradicts',
  context: 'context',
};

/** "1 observation", "4 observations". */
export const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** "340 KB", "1.2 MB": of a file, in thousands of bytes. */
export function size(bytes: number): string {
  if (bytes < 1000) return count(bytes, 'byte');
  const [value, unit] = bytes < 1e6 ? [bytes / 1e3, 'KB'] : bytes < 1e9 ? [bytes / 1e6, 'MB'] : [bytes / 1e9, 'GB'];
  return `${value.toLocaleString(undefined, { maximumFractionDigits: value < 10 ? 1 : 0 })} ${unit}`;
}

/** "6 of 9 people". */
export const ofPeople = (n: number, of: number) => (of === 0 ? 'nobody asked yet' : `${n} of ${count(of, 'person', 'people')}`);

/** Milliseconds as 12:06 or 1:02:06; before the beginning as −00:12. */
export function clock(ms: number): string {
  if (ms < 0) return `−${clock(-ms)}`;
  const seconds = Math.floor(ms / 1000);
  const two = (n: number) => String(n).padStart(2, '0');
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${two(m)}:${two(s)}`;
}

/** A stored moment with its time, in the reader's own language. */
export const moment = (iso: string) => new Date(iso).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** A stored day or moment in the reader's own language. */
export const day = (iso: string) =>
  new Date(iso.length === 10 ? `${iso}T12:00:00` : iso).toLocaleDateString(undefined, { day: 'numeric', month: 'long', year: 'numeric' });

/** How long something lasts, in words: 4.2 s, 3 min 20 s. */
export function inSeconds(ms: number): string {
  if (ms < 60_000) return `${(ms / 1000).toFixed(1)} s`;
  const seconds = Math.round(ms / 1000);
  return `${Math.floor(seconds / 60)} min ${seconds % 60} s`;
}
