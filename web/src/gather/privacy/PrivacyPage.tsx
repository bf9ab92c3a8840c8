import { useMutation, useQuery } from '@tanstack/react-query';
import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { Choice, Problem, TextField } from '@/parts/Field';
import { count } from '@/parts/words';
import { GatherTabs } from '@/gather/sources/GatherTabs';
import { DetailGroupRow } from './DetailGroupRow';
import { idOf, masksOf, sortedOut, type Chosen } from './chosen';

/** Names, addresses and numbers that give people away: found, looked over, and then masked in whatever leaves the team. */
export function PrivacyPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId/gather/privacy' });
  const { source: only } = useSearch({ from: '/team/studies/$studyId/gather/privacy' });
  const navigate = useNavigate();
  const { data: sources, error } = useQuery(queries.sources(studyId));
  const masks = useQuery(queries.masks(studyId)).data;
  const [words, setWords] = useState('');
  const [chosen, setChosen] = useState<Chosen>({ left: new Set(), replacements: new Map() });
  const path = { studyId };
  const find = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/studies/{studyId}/privacy/find', {
          params: { path },
          body: { sourceIds: only === undefined ? [] : [only], words: words.split(',').flatMap((w) => (w.trim() ? [w.trim()] : [])) },
        }),
      ),
    onSuccess: () => setChosen({ left: new Set(), replacements: new Map() }),
  });
  const mask = useWrite((given: Schemas['NewMask'][]) => ask(api.POST('/api/studies/{studyId}/masks', { params: { path }, body: { masks: given } })), {
    own: true,
  });
  const off = useWrite((ids: number[]) => ask(api.POST('/api/studies/{studyId}/masks/take-off', { params: { path }, body: { ids } })));
  if (!sources || !masks) return <Waiting problem={error} />;
  const found = find.data;
  const { open, done } = sortedOut(found ?? []);
  const given = masksOf(open, chosen);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    find.mutate();
  };
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1240px] px-5 py-6">
        <GatherTabs studyId={studyId}>
          {given.length > 0 && (
            <Button look="main" disabled={mask.isPending} onClick={() => mask.mutate(given, { onSuccess: () => find.mutate() })}>
              Mask {count(given.length, 'place')}
            </Button>
          )}
        </GatherTabs>
        <form onSubmit={submit} className="mb-4 grid grid-cols-[260px_minmax(0,1fr)_auto] items-end gap-4">
          <Choice
            label="Look in"
            value={only ?? ''}
            onChange={(e) => {
              find.reset();
              void navigate({ to: '/studies/$studyId/gather/privacy', params: path, search: e.target.value ? { source: Number(e.target.value) } : {} });
            }}
          >
            <option value="">the whole study</option>
            {sources
              .filter((s) => s.length > 0)
              .map((s) => (
                <option key={s.id} value={s.id}>
                  {s.title}
                </option>
              ))}
          </Choice>
          <TextField
            label="Also look for these words"
            placeholder="names of others, of an employer, of a house; commas between"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          <Button type="submit" look={found ? 'plain' : 'main'} disabled={find.isPending} className="mb-3.5">
            Find names and numbers
          </Button>
        </form>
        <Problem of={find.error ?? mask.error} />
        {!found ? (
          <Empty title={masks.length > 0 ? `${count(masks.length, 'place')} masked` : 'Nothing is masked yet'} sample="“Ring Sorrel at [phone number].”">
            Found are the real names of participants, e-mail addresses, phone numbers and the words you give. You look them over before anything is masked.
            Masked words stay in the text for the team and can be had back; in what is published they are replaced and not sent along.
          </Empty>
        ) : (
          <>
            {open.length === 0 && (
              <p className="py-8 text-center text-ink-soft">{done.length > 0 ? 'All that was found is masked.' : 'Nothing was found here.'}</p>
            )}
            <ul aria-label="Found">
              {open.map((group) => (
                <DetailGroupRow key={idOf(group)} studyId={studyId} group={group} sources={sources} chosen={chosen} onChoose={setChosen} />
              ))}
            </ul>
            {done.length > 0 && (
              <section aria-label="Masked" className="mt-8">
                <h2 className="mb-1 text-[13px] font-semibold text-ink-soft">Masked</h2>
                <ul>
                  {done.map((group) => (
                    <li key={idOf(group)} className="flex items-baseline gap-3 border-t border-line py-2">
                      <span className="font-read text-[15.5px]">{group.words}</span>
                      <span className="text-ink-soft">
                        leaves as {group.replacement}, in {count(group.places.length, 'place')}
                      </span>
                      <Button
                        look="quiet"
                        className="ml-auto"
                        onClick={() =>
                          off.mutate(
                            group.places.map((p) => p.maskId!),
                            { onSuccess: () => find.mutate() },
                          )
                        }
                      >
                        Remove the mask
                      </Button>
                    </li>
                  ))}
                </ul>
              </section>
            )}
          </>
        )}
      </div>
    </div>
  );
}
