import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { TagLabel } from '@/parts/TagLabel';
import { useTagLook } from '@/parts/useTagLook';
import { count } from '@/parts/words';
import { OldAndNew } from './OldAndNew';

const link = 'inline-flex min-h-8 items-center rounded-std border border-line bg-case px-3 text-[13px] font-medium hover:bg-wash';

/** Observations whose words were changed or taken out by a correction, with the old words and the new ones, until somebody has looked. */
export function ToLookAtPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId/mark/to-look-at' });
  const { data: looks, error } = useQuery(queries.toLookAt(studyId));
  const tags = useQuery(queries.tags(studyId)).data;
  const look = useTagLook(tags);
  const path = { studyId };
  const settle = useWrite((observationIds: number[]) =>
    ask(api.POST('/api/studies/{studyId}/to-look-at/settle', { params: { path }, body: { observationIds } })),
  );
  const remove = useWrite((id: number) => ask(api.POST('/api/studies/{studyId}/observations/remove', { params: { path }, body: { observationIds: [id] } })));
  if (!looks) return <Waiting problem={error} />;
  const changed = looks.filter((l) => !l.gone);
  if (looks.length === 0)
    return (
      <Empty title="Nothing to look at" sample="was “nobody tolled us”, now “nobody told us”">
        When a text is corrected, what was marked follows its words. Observations whose own words were changed, or taken out, are listed here until somebody has
        looked at them.
      </Empty>
    );
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[900px] px-5 py-6">
        <div className="mb-2 flex items-baseline gap-3">
          <h1 className="font-read text-[22px] font-semibold">To look at after corrections</h1>
          <span className="text-ink-soft">{count(looks.length, 'observation')}</span>
          {changed.length > 1 && (
            <Button className="ml-auto" onClick={() => settle.mutate(changed.map((l) => l.observationId))} disabled={settle.isPending}>
              All {changed.length} on changed words are right
            </Button>
          )}
        </div>
        <ul>
          {looks.map((l, i) => (
            <li key={l.observationId} className="border-t border-line py-4">
              {l.sourceId !== looks[i - 1]?.sourceId && <h2 className="mb-2 text-[12.5px] font-semibold text-ink-soft">{l.sourceTitle}</h2>}
              <div className="grid grid-cols-[minmax(0,1fr)_190px] gap-6">
                <div>
                  <OldAndNew old={l.oldWords} now={l.newWords} gone={l.gone} />
                  <p className="mt-2 ml-[76px] flex flex-wrap gap-1.5">
                    {l.tagIds.map((id) => (
                      <TagLabel key={id} look={look(id)} />
                    ))}
                  </p>
                </div>
                <div className="flex flex-col items-stretch gap-1.5 *:justify-center">
                  {!l.gone && <Button onClick={() => settle.mutate([l.observationId])}>It is right</Button>}
                  <Link to="/studies/$studyId/mark" params={path} search={{ source: l.sourceId, place: l.start, put: l.observationId }} className={link}>
                    {l.gone ? 'Give it a place' : 'Give it another place'}
                  </Link>
                  <Button look="quiet" className="hover:!text-oxblood" onClick={() => remove.mutate(l.observationId)}>
                    Remove it
                  </Button>
                </div>
              </div>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}
