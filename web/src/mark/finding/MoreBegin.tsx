import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Empty, Waiting } from '@/parts/Empty';
import { TagLine } from '@/parts/TagLine';
import { useTagLook } from '@/parts/useTagLook';
import { useTagUses } from '@/shared/useTagUses';
import type { TagsGiven } from './ChosenBar';

const at = '/team/studies/$studyId/mark/more';

/** From bare words to passages like them: once it is said what they say, each yes can be marked with it. */
export function MoreBegin() {
  const { studyId } = useParams({ from: at });
  const { source: sourceId, start, end } = useSearch({ from: at });
  const navigate = useNavigate();
  const { data: source, error: missing } = useQuery({ ...queries.source(sourceId), enabled: sourceId > 0 });
  const { tags, error } = useTagUses(studyId);
  const look = useTagLook(tags?.map((t) => t.tag));
  const mark = useWrite(
    ({ tagIds, newTags }: TagsGiven) =>
      ask(
        api.POST('/api/sources/{id}/observations', {
          params: { path: { id: sourceId } },
          body: {
            anchor: { kind: 'text', start, end, beginMs: null, endMs: null, x: null, y: null, width: null, height: null, atMs: null, outline: null },
            tagIds,
            newTags,
            basedOn: source!.textHash,
          },
        }),
      ),
    { quiet: true },
  );
  if (sourceId === 0 || end <= start)
    return (
      <Empty
        title="Like what?"
        action={
          <Link className="text-sky hover:underline" to="/studies/$studyId/mark" params={{ studyId }}>
            To the sources
          </Link>
        }
      >
        Select some words in a source and press k: passages that mean the same are found here.
      </Empty>
    );
  if (!source || !tags) return <Waiting problem={error ?? missing} />;
  const begin = async (given: TagsGiven) => {
    if (given.tagIds.length + given.newTags.length === 0) return;
    const { id } = await mark.mutateAsync(given);
    const there = await ask(api.GET('/api/sources/{id}/observations', { params: { path: { id: sourceId } } }));
    const tagId = there.find((o) => o.id === id)?.tagIds.at(-1);
    if (id !== null && tagId !== undefined)
      void navigate({ to: '/studies/$studyId/mark/more/$tagId', params: { studyId, tagId }, search: { like: id }, replace: true });
  };
  const back = () => void navigate({ to: '/studies/$studyId/mark', params: { studyId }, search: { source: sourceId, place: start } });
  return (
    <div className="mx-auto max-w-[760px] px-5 py-6">
      <h1 className="font-read text-[22px] font-semibold">More like these words</h1>
      <blockquote className="mt-3 border-l-2 border-verdigris pl-4 font-read text-[17px] leading-[1.5] wrap-anywhere whitespace-pre-line">
        {source.text.slice(start, end)}
      </blockquote>
      <p className="mt-4 mb-2 text-ink-soft">What do they say? The tag that you give them is what each passage gets to which you say yes.</p>
      <TagLine tags={tags} look={look} recent={[]} onDone={(tagIds, newTags) => void begin({ tagIds, newTags })} onCancel={back} />
    </div>
  );
}
