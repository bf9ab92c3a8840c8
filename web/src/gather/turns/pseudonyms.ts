import type { Schemas } from '@/api/client';

/** Plants, as long as a study has no list of its own. */
export const plants =
  'Alder, Ash, Aster, Bay, Birch, Bracken, Bramble, Briar, Broom, Bryony, Campion, Cedar, Clover, Comfrey, Cress, Dogwood, Elder, Elm, Fennel, Fern, Flax, Furze, Gorse, Hawthorn, Hazel, Heather, Holly, Hyssop, Iris, Ivy, Juniper, Larch, Laurel, Linden, Lovage, Mallow, Maple, Marram, Mint, Myrtle, Nettle, Oak, Olive, Pine, Poplar, Primrose, Quince, Reed, Rowan, Rue, Rush, Sage, Sedge, Senna, Sloe, Sorrel, Tansy, Teasel, Thistle, Thrift, Thyme, Vetch, Viola, Willow, Wren, Yarrow, Yew';

/** A name that nobody is matched to, with where it speaks. */
export interface Unmatched {
  label: string;
  sources: number;
  turns: number;
}

/** Names of transcripts to whom nobody is matched, each once, the most spoken first. */
export function unmatchedIn(sources: readonly Pick<Schemas['SourceLine'], 'speakers'>[]): Unmatched[] {
  const found = new Map<string, Unmatched>();
  for (const { speakers } of sources)
    for (const { label, turns, participantId, isTeam } of speakers) {
      if (participantId !== null || isTeam) continue;
      const known = found.get(label.toLowerCase());
      found.set(label.toLowerCase(), { label: known?.label ?? label, sources: (known?.sources ?? 0) + 1, turns: (known?.turns ?? 0) + turns });
    }
  return [...found.values()].toSorted((a, b) => b.turns - a.turns || a.label.localeCompare(b.label));
}

export interface Proposed {
  label: string;
  code: string;
  pseudonym: string;
}

/** For each name a code and a pseudonym that nobody has; a name that is a code keeps it. No two get the same. */
export function proposed(labels: readonly string[], people: readonly Pick<Schemas['Participant'], 'code' | 'pseudonym'>[], list: string): Proposed[] {
  const codes = new Set(people.map((p) => p.code.toLowerCase()));
  const called = new Set([...people.map((p) => p.pseudonym), ...labels].map((name) => name.toLowerCase()));
  const free = list
    .split(/[,;\n]/)
    .map((name) => name.trim())
    .filter((name) => name !== '' && !called.has(name.toLowerCase()));
  let number = people.length;
  return labels.map((label, i) => {
    const own = /^[A-Za-z]{1,2}\d{1,4}$/.test(label) && !codes.has(label.toLowerCase());
    let code = label;
    while (!own) {
      number++;
      code = `P${String(number).padStart(2, '0')}`;
      if (!codes.has(code.toLowerCase()) && !labels.some((l) => l.toLowerCase() === code.toLowerCase())) break;
    }
    codes.add(code.toLowerCase());
    return { label, code, pseudonym: free[i] ?? '' };
  });
}
