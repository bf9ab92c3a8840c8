import { useState, type FormEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { Problem, TextArea } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';

/** A study's own tag is proposed to the set that every study shares. */
export function ProposalDialog({ tag, onClose }: { tag: Pick<Schemas['Tag'], 'id' | 'name' | 'studyId' | 'definition'>; onClose: () => void }) {
  const [words, setWords] = useState('');
  const proposal = useWrite(
    (studyId: number) => ask(api.POST('/api/studies/{studyId}/tags/{tagId}/proposal', { params: { path: { studyId, tagId: tag.id } }, body: { words } })),
    { own: true },
  );
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Propose “${tag.name}” for the shared set`}
      intro="The steward sees its definition, how broad it is and some of its quotes, and accepts it, merges it, or leaves it to this study."
    >
      <form
        className="space-y-4"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          if (tag.studyId !== null) proposal.mutate(tag.studyId, { onSuccess: onClose });
        }}
      >
        {tag.definition === '' && <p className="text-[13px] text-brass">It has no definition yet. Others will ask what it means.</p>}
        <TextArea label="Why other studies may want it" value={words} onChange={(e) => setWords(e.target.value)} rows={3} />
        <Problem of={proposal.error} />
        <FormEnd save="Propose it" onLeave={onClose} busy={proposal.isPending} />
      </form>
    </Dialog>
  );
}
