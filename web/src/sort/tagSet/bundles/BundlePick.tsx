import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { isBundle, pathOf } from '@/parts/bundles';
import { PickByTitle } from '@/parts/PickByTitle';
import { count } from '@/parts/words';

type Tag = Schemas['Tag'];

interface Props {
  /** Tags that are put in a bundle, or bundles that a tag is put in. */
  meant: readonly Tag[];
  tags: readonly Tag[];
  studyId: number | undefined;
  onDone: () => void;
  onClose: () => void;
}

/** Puts tags in a bundle that is there, or in a new one; or, of a bundle, a tag in it. */
export function BundlePick({ meant, tags, studyId, onDone, onClose }: Props) {
  const put = useWrite(({ bundleId, tagIds }: { bundleId: number; tagIds: number[] }) =>
    ask(api.PUT('/api/tags/{id}/members', { params: { path: { id: bundleId } }, body: { tagIds, held: true } })),
  );
  // A study's own tags are in bundles of that study; a shared one may be in any.
  const own = studyId ?? meant.find((t) => t.studyId !== null)?.studyId ?? undefined;
  const make = useWrite((name: string) => {
    const body = { name, tagIds: meant.map((t) => t.id) };
    return own === undefined
      ? ask(api.POST('/api/tags/bundles', { body }))
      : ask(api.POST('/api/studies/{studyId}/tags/bundles', { params: { path: { studyId: own } }, body }));
  });
  const may = (tag: Tag, bundle: Tag) => tag.studyId === null || tag.studyId === bundle.studyId;
  const bundles = meant.filter(isBundle);
  if (bundles.length > 0) {
    const [bundle] = bundles as [Tag];
    return (
      <PickByTitle
        title={`Put a tag in “${bundle.name}”`}
        label="Tag"
        items={tags
          .filter((t) => !isBundle(t) && may(t, bundle) && !bundle.members!.includes(t.id))
          .map((t) => ({
            id: String(t.id),
            title: t.name,
            kind: pathOf(tags, t).join(' / '),
            pick: () => put.mutate({ bundleId: bundle.id, tagIds: [t.id] }),
          }))}
        none="No tag that is not in it is called like that."
        onClose={onClose}
      />
    );
  }
  const tagIds = meant.map((t) => t.id);
  return (
    <PickByTitle
      title={`Put ${meant.length === 1 ? `“${meant[0]!.name}”` : count(meant.length, 'tag')} in a bundle`}
      label="Bundle"
      items={tags
        .filter((b) => isBundle(b) && meant.every((t) => may(t, b)) && !tagIds.every((id) => b.members!.includes(id)))
        .map((b) => ({
          id: String(b.id),
          title: b.name,
          kind: count(b.members!.length, 'tag'),
          pick: () => put.mutate({ bundleId: b.id, tagIds }, { onSuccess: onDone }),
        }))}
      none="No other bundle is called like that. Type a name to make one."
      make={{ label: (typed) => `New bundle “${typed}”`, act: (typed) => make.mutate(typed, { onSuccess: onDone }) }}
      onClose={onClose}
    />
  );
}
