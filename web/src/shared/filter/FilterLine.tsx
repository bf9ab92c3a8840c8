import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { queries } from '@/api/queries';
import { isBundle } from '@/parts/bundles';
import { inWords, toggled } from '@/parts/lists';
import { Choices, Word, type Choice } from '@/parts/WordChoices';
import { useTagLook } from '@/parts/useTagLook';
import { kinds, kindWords } from '@/parts/words';
import { SavedFilters } from './SavedFilters';
import { sentiments, type Where } from './where';

interface Props {
  studyId: number;
  where: Where | undefined;
  onWhere: (where: Where) => void;
  /** What else says who speaks. */
  alsoWho?: { label: string; on: boolean; onChange: () => void; word: string };
  children?: ReactNode;
}

const between = ({ min, max }: { min: string | null; max: string | null }) =>
  min === null ? `up to ${max}` : max === null ? `from ${min}` : `${min} to ${max}`;

/** Which observations are meant, as one line of words; each word is changed where it stands, and what is set can be kept by a name. */
export function FilterLine({ studyId, where, onWhere, alsoWho, children }: Props) {
  const known = useQuery(queries.participants(studyId)).data;
  const sources = useQuery(queries.sources(studyId)).data ?? [];
  const sessions = useQuery(queries.sessions(studyId)).data ?? [];
  const tags = useQuery(queries.tags(studyId)).data ?? [];
  const authors = useQuery(queries.taggers(studyId)).data ?? [];
  const look = useTagLook(tags);
  const { people = [], attributes = [] } = known ?? {};
  const set = (part: { [K in keyof Where]?: Where[K] | undefined }) => onWhere({ ...where, ...part } as Where);
  const pick = <K extends 'participantIds' | 'sourceIds' | 'sessionIds' | 'tagIds' | 'authorIds'>(list: K, id: number) =>
    set({ [list]: toggled(where?.[list], id) });
  const has = (attributeId: number, value: string) => where?.values?.some((v) => v.attributeId === attributeId && v.value === value) ?? false;
  const pickValue = (attributeId: number, value: string) =>
    set({
      values: has(attributeId, value)
        ? where?.values?.filter((v) => v.attributeId !== attributeId || v.value !== value)
        : [...(where?.values ?? []), { attributeId, value }],
    });
  const valuesOf = (id: number) => [...new Set(people.map((p) => p.values[id] ?? '').filter(Boolean))].toSorted().slice(0, 60);

  /** Of an attribute one range is set here. */
  const rangeOf = (id: number) => where?.ranges?.find((r) => r.attributeId === id);
  const setRange = (attributeId: number, part: { min?: string | null; max?: string | null }) => {
    const range = { attributeId, min: null, max: null, ...rangeOf(attributeId), ...part };
    const others = (where?.ranges ?? []).filter((r) => r.attributeId !== attributeId);
    set({ ranges: range.min === null && range.max === null ? others : [...others, range] });
  };
  const measured = attributes.filter((a) => a.kind === 'number' || a.kind === 'date');

  const who = [
    ...(where?.participantIds ?? []).map((id) => people.find((p) => p.id === id)?.pseudonym ?? 'someone who is gone'),
    ...(where?.values ?? []).map((v) => v.value),
    ...(where?.ranges ?? []).map((r) => `${attributes.find((a) => a.id === r.attributeId)?.name ?? 'a column that is gone'} ${between(r)}`),
  ];
  const from = [
    ...(where?.sourceKinds ?? []).map((k) => kindWords[k].many.toLowerCase()),
    ...(where?.sessionIds ?? []).map((id) => sessions.find((s) => s.id === id)?.title ?? 'a session that is gone'),
    ...(where?.sourceIds ?? []).map((id) => sources.find((s) => s.id === id)?.title ?? 'a source that is gone'),
    ...(where?.heldFrom ? [`from ${where.heldFrom}`] : []),
    ...(where?.heldTo ? [`until ${where.heldTo}`] : []),
  ];
  const tagged = where?.untagged ? ['no tag'] : (where?.tagIds ?? []).map((id) => look(id).name || 'a tag that is gone');
  const marked = [
    ...(where?.authorIds ?? []).map((id) => `by ${authors.find((a) => a.accountId === id)?.name.split(' ')[0] ?? 'someone who is gone'}`),
    ...(where?.sentiments ?? []).flatMap((s) => s ?? []),
    ...(where?.starred ? ['starred'] : []),
    ...(where?.unsure ? ['unsure'] : []),
    ...(where?.reviewed ? ['looked at'] : []),
  ];
  const chooseWho: Choice[] = [
    ...(alsoWho ? [{ key: 'also', label: alsoWho.label, on: alsoWho.on, onChange: alsoWho.onChange }] : []),
    // Numbers and days are no groups of people: they are asked for from one to another.
    ...attributes
      .filter((a) => a.kind !== 'number' && a.kind !== 'date')
      .flatMap((a) =>
        valuesOf(a.id).map((value) => ({
          key: `a${a.id} ${value}`,
          group: a.name,
          label: value,
          on: has(a.id, value),
          onChange: () => pickValue(a.id, value),
        })),
      ),
    ...people.map((p) => ({
      key: `p${p.id}`,
      group: 'participants',
      label: `${p.code} ${p.pseudonym}`,
      on: where?.participantIds?.includes(p.id) ?? false,
      onChange: () => pick('participantIds', p.id),
    })),
  ];
  const chooseSource: Choice[] = [
    ...kinds
      .filter((k) => sources.some((s) => s.kind === k))
      .map((k) => ({
        key: k,
        group: 'kinds of source',
        label: kindWords[k].many,
        on: where?.sourceKinds?.includes(k) ?? false,
        onChange: () => set({ sourceKinds: toggled(where?.sourceKinds, k) }),
      })),
    ...sessions.map((s) => ({
      key: `h${s.id}`,
      group: 'sessions',
      label: s.title,
      on: where?.sessionIds?.includes(s.id) ?? false,
      onChange: () => pick('sessionIds', s.id),
    })),
    ...sources.map((s) => ({
      key: `s${s.id}`,
      group: 'sources',
      label: s.title,
      on: where?.sourceIds?.includes(s.id) ?? false,
      onChange: () => pick('sourceIds', s.id),
    })),
  ];
  const chooseTag: Choice[] = [
    { key: 'none', label: 'Without any tag', on: where?.untagged === true, onChange: () => set({ untagged: !where?.untagged, tagIds: [] }) },
    ...tags
      .toSorted((a, b) => Number(isBundle(b)) - Number(isBundle(a)))
      .map((t) => ({
        key: `t${t.id}`,
        group: isBundle(t) ? 'bundles' : 'tags',
        label: t.name,
        look: look(t.id),
        on: where?.tagIds?.includes(t.id) ?? false,
        onChange: () => set({ tagIds: toggled(where?.tagIds, t.id), untagged: false }),
      })),
  ];
  const chooseMark: Choice[] = [
    {
      key: 'reviewed',
      label: 'Without what was found and not reviewed',
      on: where?.reviewed === true,
      onChange: () => set({ reviewed: !where?.reviewed }),
    },
    { key: 'starred', label: 'Starred', on: where?.starred === true, onChange: () => set({ starred: !where?.starred }) },
    { key: 'unsure', label: 'Unsure', on: where?.unsure === true, onChange: () => set({ unsure: !where?.unsure }) },
    ...authors.map((a) => ({
      key: `b${a.accountId}`,
      group: 'marked by',
      label: a.name,
      on: where?.authorIds?.includes(a.accountId) ?? false,
      onChange: () => pick('authorIds', a.accountId),
    })),
    ...sentiments.map((s) => ({
      key: s,
      group: 'sentiment',
      label: s,
      on: where?.sentiments?.includes(s) ?? false,
      onChange: () => set({ sentiments: toggled(where?.sentiments, s) }),
    })),
  ];
  const day = (label: string, which: 'heldFrom' | 'heldTo') => (
    <label className="flex min-h-7 items-center justify-between gap-2 px-1.5">
      {label}
      <input
        type="date"
        value={where?.[which] ?? ''}
        onChange={(e) => set({ [which]: e.target.value === '' ? null : e.target.value })}
        className="rounded-std border border-line bg-paper px-1.5 py-0.5"
      />
    </label>
  );
  return (
    <div role="group" aria-label="Which are meant" className="flex flex-wrap items-center gap-x-2 text-[12.5px] text-ink-soft">
      {children}
      <span>of</span>
      <Word
        label={[...(who.length > 0 ? [inWords(who)] : ['anyone']), ...(alsoWho?.on ? [alsoWho.word] : [])].join(', ')}
        set={who.length > 0 || alsoWho?.on === true}
      >
        <Choices find="Find a person or fact" choices={chooseWho}>
          {measured.length > 0 && (
            <div className="mb-1 border-b border-line pb-1">
              {measured.map((a) => (
                <fieldset key={a.id} className="px-1.5 py-1">
                  <legend className="text-[11.5px] text-ink-soft">{a.name}</legend>
                  <div className={`mt-0.5 flex gap-1.5 ${a.kind === 'date' ? 'flex-col' : ''}`}>
                    {(['min', 'max'] as const).map((end) => (
                      <label key={end} className="flex min-w-0 flex-1 items-center gap-1.5">
                        <span className="min-w-8">{end === 'min' ? 'from' : 'to'}</span>
                        <input
                          type={a.kind === 'date' ? 'date' : 'number'}
                          step="any"
                          value={rangeOf(a.id)?.[end] ?? ''}
                          onChange={(e) => setRange(a.id, { [end]: e.target.value === '' ? null : e.target.value })}
                          className="w-full min-w-0 rounded-std border border-line bg-paper px-1.5 py-0.5"
                        />
                      </label>
                    ))}
                  </div>
                </fieldset>
              ))}
            </div>
          )}
        </Choices>
      </Word>
      <span>in</span>
      <Word label={from.length > 0 ? inWords(from) : 'any source'} set={from.length > 0}>
        <Choices find="Find a source" choices={chooseSource} />
        <div className="mt-1 border-t border-line pt-1">
          {day('Held on or after', 'heldFrom')}
          {day('Held on or before', 'heldTo')}
        </div>
      </Word>
      <span>with</span>
      <Word label={tagged.length > 0 ? inWords(tagged) : 'any tag or none'} set={tagged.length > 0}>
        <Choices find="Find a tag" choices={chooseTag} />
      </Word>
      <span>·</span>
      <Word label={marked.length > 0 ? inWords(marked) : 'any mark'} set={marked.length > 0}>
        <Choices find="Find a name" choices={chooseMark} />
      </Word>
      <span>·</span>
      <SavedFilters studyId={studyId} where={where} onWhere={onWhere} />
      {where && (
        <button type="button" className="min-h-6 text-sky hover:underline" onClick={() => onWhere({})}>
          no conditions
        </button>
      )}
    </div>
  );
}
