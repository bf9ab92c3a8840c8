import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Problem } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';
import { count } from '@/parts/words';
import { usesInWords } from '@/shared/things';
import { claimOf } from '@/shared/claim';
import { inTree } from './place';

interface Props {
  /** The one that goes, as long as nobody chooses another. */
  from: Schemas['ThemeHead'];
  themes: readonly Schemas['ThemeHead'][];
  onClose: () => void;
  onMerged: (into: number) => void;
}

/** Merges a theme into another one; what happens is shown first. */
export function MergeThemes({ from, themes, onClose, onMerged }: Props) {
  const others = inTree(themes).flatMap(({ theme }) => (theme.id === from.id ? [] : [theme]));
  const [into, setInto] = useState(others[0]?.id);
  const { data: shown, error } = useQuery({ ...queries.themeMerge(into ?? 0, [from.id]), enabled: into !== undefined });
  const merge = useWrite(() => ask(api.POST('/api/themes/{id}/merge', { params: { path: { id: into! } }, body: { themeIds: [from.id] } })), { own: true });
  const stays = others.find((t) => t.id === into);
  const brings = shown?.merged[0];
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Merge “${claimOf(from)}” into another theme`}
      intro="Nothing happens before you say so; it is undone as one step."
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          merge.mutate(undefined, { onSuccess: () => onMerged(into!) });
        }}
      >
        <Problem of={merge.error ?? error} />
        {others.length === 0 && <p className="mb-3 text-ink-soft">There is no other theme yet.</p>}
        <fieldset className="mb-3 max-h-[300px] overflow-y-auto">
          <legend className="mb-1 text-[12.5px] text-ink-soft">Which one stays, with its claim and description</legend>
          {others.map((t) => (
            <label key={t.id} className="flex min-h-8 items-center gap-2">
              <input type="radio" name="into" checked={t.id === into} onChange={() => setInto(t.id)} className="size-4 accent-verdigris" />
              <span className={`font-read text-[15px] ${t.id === into ? 'font-semibold' : ''}`}>{claimOf(t)}</span>
            </label>
          ))}
        </fieldset>
        {shown && brings && stays && (
          <ul className="mb-3 rounded-std bg-brass-wash px-3 py-2 text-[13px]">
            <li>
              “{claimOf(stays)}” then holds <strong>{count(shown.after, 'observation')}</strong>; it holds {shown.before} now, and{' '}
              {brings.alsoInto === 0 ? 'none is' : `${brings.alsoInto} ${brings.alsoInto === 1 ? 'is' : 'are'}`} in both.
            </li>
            {brings.otherStance > 0 && <li>{count(brings.otherStance, 'observation')} have another stance in each; the one in the theme that stays holds.</li>}
            {brings.subThemes > 0 && <li>{count(brings.subThemes, 'sub-theme')} stand under it then.</li>}
            {from.description !== '' && <li>The claim and the description of the one that goes go with it: copy what you want to keep.</li>}
            {usesInWords(shown.uses.kinds).map((line) => (
              <li key={line}>It takes its place in {line}.</li>
            ))}
          </ul>
        )}
        <FormEnd save="Merge" onLeave={onClose} busy={merge.isPending || !shown} />
      </form>
    </Dialog>
  );
}
