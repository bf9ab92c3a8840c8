import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { isBundle } from '@/parts/bundles';
import { Dialog } from '@/parts/Dialog';
import { Choice, Problem } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { count } from '@/parts/words';
import { claimOf } from '@/shared/claim';
import { asQuery } from '@/shared/filter/where';
import { useWhere } from '@/shared/filter/useWhere';
import { useTagUses } from '@/shared/useTagUses';
import { isEmpty, nothing, observationsOf, said, type Chosen } from '@/sort/themes/chosen';

interface Props {
  studyId: number;
  /** What is chosen; nothing for what is offered: tags in no theme, unsorted observations. */
  chosen: Chosen;
  /** The theme that is to be broken up. */
  theme?: Schemas['ThemeHead'];
  onClose: () => void;
}

type Kind = Schemas['SuggestionKind'];
/** A list of things that help can be asked for. */
interface Of {
  name: string;
  what: Chosen;
}

/** As many groups as can be asked for. */
const mostGroups = 20;

/** Asks for suggestions: of what, and which kind of help. Nothing is changed by asking. */
export function AskForSuggestions({ studyId, chosen, theme, onClose }: Props) {
  const { where } = useWhere();
  const { tags } = useTagUses(studyId, where);
  const themes = useQuery(queries.sorting(studyId, asQuery(where))).data?.themes;
  const unsorted = useQuery(queries.unsortedIds(studyId, asQuery(where))).data;
  const [of, setOf] = useState(0);
  const [wanted, setWanted] = useState<Kind | null>(null);
  const [groups, setGroups] = useState('');
  const [holdMixed, setHoldMixed] = useState(false);
  // All of them, as long as nobody says otherwise.
  const [into, setInto] = useState<readonly number[] | null>(null);
  const navigate = useNavigate();
  const make = useWrite((body: Schemas['SuggestionAsked']) => ask(api.POST('/api/studies/{studyId}/suggestions', { params: { path: { studyId } }, body })), {
    own: true,
    quiet: true,
  });
  const lists = listsOf();
  const { what } = lists[of] ?? { what: chosen };
  const kinds: { kind: Kind; words: string }[] = theme
    ? [{ kind: 'parts', words: 'Sub-themes that its observations fall into' }]
    : [
        ...(what.tags.length > 0 ? [{ kind: 'themes' as const, words: 'Themes that these tags make together' }] : []),
        ...(themes && themes.length > 0 ? [{ kind: 'placing' as const, words: 'In which of the themes that are there each belongs' }] : []),
        ...(what.observations.length > 0 ? [{ kind: 'parts' as const, words: 'Groups that these observations fall into' }] : []),
      ];
  const kind = kinds.some((k) => k.kind === wanted) ? wanted : (kinds[0]?.kind ?? null);
  const submit = () =>
    kind &&
    make.mutate(
      {
        kind,
        tagIds: kind === 'parts' ? [] : what.tags,
        observationIds: kind === 'themes' || theme ? [] : what.observations,
        themeIds: kind === 'placing' ? [...(into ?? [])] : [],
        themeId: theme?.id ?? null,
        groups: kind === 'placing' || groups === '' ? null : Number(groups),
        holdMixed,
      },
      { onSuccess: (step) => void navigate({ to: '/studies/$studyId/sort/suggestions/$suggestionId', params: { studyId, suggestionId: step.id! } }) },
    );
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={theme ? `Split “${claimOf(theme)}”` : 'Ask for suggestions'}
      intro="Worked out here, from where tags stand and what is said. Nothing changes until you say yes to it."
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
        // Arrows choose in a list; Enter is for the whole form, as in any other field.
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || (event.target as HTMLElement).tagName !== 'SELECT') return;
          event.preventDefault();
          event.currentTarget.requestSubmit();
        }}
      >
        <Problem of={make.error} />
        {!theme && (
          <Choice label="Of what" value={of} onChange={(e) => setOf(Number(e.target.value))}>
            {lists.map((list, i) => (
              <option key={list.name} value={i}>
                {list.name}
              </option>
            ))}
          </Choice>
        )}
        {kinds.length > 1 && (
          <fieldset className="mb-3.5">
            <legend className="mb-1 text-[13px] font-medium">What</legend>
            {kinds.map((k) => (
              <label key={k.kind} className="flex min-h-8 items-center gap-2">
                <input type="radio" name="kind" className="size-4 accent-verdigris" checked={k.kind === kind} onChange={() => setWanted(k.kind)} />
                {k.words}
              </label>
            ))}
          </fieldset>
        )}
        {kind === 'placing' && themes && (
          <fieldset className="mb-3.5 max-h-[180px] overflow-y-auto">
            <legend className="mb-1 text-[13px] font-medium">Into which themes</legend>
            {themes.map(({ theme: one }) => (
              <label key={one.id} className="flex min-h-7 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-4 shrink-0 accent-verdigris"
                  checked={into === null || into.includes(one.id)}
                  onChange={(e) => {
                    const now = into ?? themes.map((t) => t.theme.id);
                    setInto(e.target.checked ? [...now, one.id] : now.filter((id) => id !== one.id));
                  }}
                />
                <span className="truncate font-read text-[15px]">{claimOf(one)}</span>
              </label>
            ))}
          </fieldset>
        )}
        {kind !== 'placing' && kind !== null && (
          <Choice label="How many groups" value={groups} onChange={(e) => setGroups(e.target.value)}>
            <option value="">as many as fit best</option>
            <option value="0">none: put each by hand</option>
            {Array.from({ length: mostGroups - 1 }, (_, i) => (
              <option key={i} value={i + 2}>
                {i + 2}
              </option>
            ))}
          </Choice>
        )}
        <label className="mb-4 flex min-h-8 items-center gap-2">
          <input type="checkbox" className="size-4 accent-verdigris" checked={holdMixed} onChange={(e) => setHoldMixed(e.target.checked)} />
          Hold apart what mixes good and bad
        </label>
        <FormEnd save="Suggest" onLeave={onClose} busy={make.isPending || kind === null || (kind === 'placing' && into?.length === 0)} />
      </form>
    </Dialog>
  );

  function listsOf(): Of[] {
    const inThemes = new Set(themes?.flatMap((t) => t.theme.tagIds));
    // What has no marks of its own, a family’s head or a bundle, says what its tags say.
    const used = (tags ?? []).filter((t) => t.own.observations > 0 && !isBundle(t.tag)).map((t) => t.tag.id);
    const free = used.filter((id) => !inThemes.has(id));
    const any = !isEmpty(chosen);
    return [
      ...(any ? [{ name: `What is chosen: ${said(chosen)}`, what: { ...nothing, tags: chosen.tags, observations: observationsOf(chosen) } }] : []),
      ...(free.length > 0 ? [{ name: `${count(free.length, 'tag')} in no theme`, what: { ...nothing, tags: free } }] : []),
      ...(used.length > free.length ? [{ name: `All ${count(used.length, 'tag')} in use`, what: { ...nothing, tags: used } }] : []),
      ...(unsorted && unsorted.length > 0
        ? [{ name: `${count(unsorted.length, 'unsorted observation')}${where ? ', filtered' : ''}`, what: { ...nothing, observations: unsorted } }]
        : []),
    ];
  }
}
