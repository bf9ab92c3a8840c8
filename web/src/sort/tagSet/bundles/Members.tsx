import { X } from 'lucide-react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { inTreeOrder, pathOf } from '@/parts/bundles';

type Tag = Schemas['Tag'];

interface Props {
  bundle: Tag;
  tags: readonly Tag[];
  /** Lights or opens one of them. */
  onOpen: (tagId: number) => void;
}

/** What a bundle holds, as a run of words in the tree's order, each with what it stands under. */
export function MembersRun({ bundle, tags }: Omit<Props, 'onOpen'>) {
  const members = inTreeOrder(tags, bundle.members ?? []);
  if (members.length === 0) return <>It holds no tag.</>;
  return members.map((t, i) => (
    <span key={t.id} className="text-ink">
      <span className="text-ink-soft">{pathOf(tags, t).map((name) => `${name} / `)}</span>
      {t.name}
      {i < members.length - 1 && <span className="text-ink-soft">, </span>}
    </span>
  ));
}

/** What a bundle holds, one below the other, to be opened or taken out. */
export function Members({ bundle, tags, onOpen }: Props) {
  const put = useWrite((tagId: number) =>
    ask(api.PUT('/api/tags/{id}/members', { params: { path: { id: bundle.id } }, body: { tagIds: [tagId], held: false } })),
  );
  const members = inTreeOrder(tags, bundle.members ?? []);
  if (members.length === 0) return <p className="mb-3 text-ink-soft">It holds no tag yet.</p>;
  return (
    <ul aria-label={`Tags of ${bundle.name}`} className="mb-3 border-t border-line text-[13.5px]">
      {members.map((t) => (
        <li key={t.id} className="flex min-h-8 items-center gap-2 border-b border-line">
          <button type="button" className="min-h-6 min-w-0 flex-1 text-left hover:underline" onClick={() => onOpen(t.id)}>
            <span className="text-ink-soft">{pathOf(tags, t).map((name) => `${name} / `)}</span>
            {t.name}
          </button>
          <button
            type="button"
            aria-label={`Remove ${t.name} from ${bundle.name}`}
            title="Remove it; the tag stays as it is"
            className="grid size-6 shrink-0 place-items-center text-ink-soft hover:text-oxblood"
            onClick={() => put.mutate(t.id)}
          >
            <X aria-hidden className="size-3.5" />
          </button>
        </li>
      ))}
    </ul>
  );
}
