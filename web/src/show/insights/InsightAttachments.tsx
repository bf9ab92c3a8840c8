import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { size } from '@/parts/words';

/** Files that stand with an insight as its context: they are no evidence, and stay with the team. */
export function InsightAttachments({ studyId, insightId }: { studyId: number; insightId: number }) {
  const all = useQuery(queries.attachments(studyId)).data ?? [];
  const here = all.filter((a) => a.insightIds.includes(insightId));
  const left = all.filter((a) => !a.insightIds.includes(insightId));
  const set = useWrite((attachmentIds: number[]) =>
    ask(api.PUT('/api/studies/{studyId}/insights/{id}/attachments', { params: { path: { studyId, id: insightId } }, body: { attachmentIds } })),
  );
  return (
    <section aria-label="Attachments" className="mt-5">
      <h2 className="mb-1 font-semibold">Attachments</h2>
      <ul>
        {here.map((a) => (
          <li key={a.id} className="flex items-baseline gap-2">
            <a
              href={`/api/studies/${studyId}/attachments/${a.id}/original`}
              download
              title={a.note || a.fileName}
              className="min-w-0 flex-1 truncate hover:underline"
            >
              {a.title}
            </a>
            <span className="text-[12px] text-ink-soft">{size(a.bytes)}</span>
            <button
              type="button"
              aria-label={`Remove ${a.title}`}
              className="min-h-6 text-[12px] text-ink-soft hover:text-oxblood"
              onClick={() => set.mutate(here.filter((x) => x.id !== a.id).map((x) => x.id))}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
      {left.length > 0 ? (
        <select
          aria-label="Add an attachment as context"
          className="mt-1 min-h-7 w-full rounded-std border border-line bg-case px-1.5 text-[12.5px] text-ink-soft"
          value=""
          onChange={(e) => set.mutate([...here.map((a) => a.id), Number(e.target.value)])}
        >
          <option value="" disabled>
            Add one as context …
          </option>
          {left.map((a) => (
            <option key={a.id} value={a.id}>
              {a.title}
            </option>
          ))}
        </select>
      ) : (
        here.length === 0 && (
          <p className="text-ink-soft">
            None. Files are attached to the study in{' '}
            <Link to="/studies/$studyId/gather/attachments" params={{ studyId }} className="text-sky hover:underline">
              Gather
            </Link>
            .
          </p>
        )
      )}
    </section>
  );
}
