import { useState, type FormEvent } from 'react';
import { api, ask, oneStep } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { emptyText } from '@/parts/richText';
import { FormEnd } from '@/parts/FormEnd';
import { Problem, TextField } from '@/parts/Field';
import { count } from '@/parts/words';

interface Props {
  studyId: number;
  /** What it rests on; or how many, with what marks them first. That and the insight are one step, and carry the same headers. */
  observationIds: readonly number[] | { count: number; mark: (headers: Record<string, string>) => Promise<readonly number[]> };
  suggestion?: string;
  onClose: () => void;
  onMade: (insightId: number) => void;
}

/** From a selection of observations to an insight in one step: the headline is all that is asked. */
export function MakeInsight({ studyId, observationIds, suggestion = '', onClose, onMade }: Props) {
  const [headline, setHeadline] = useState(suggestion);
  const attached = 'count' in observationIds ? observationIds.count : observationIds.length;
  const make = useWrite(
    async () => {
      const headers = oneStep();
      const ids = 'count' in observationIds ? await observationIds.mark(headers) : observationIds;
      return ask(
        api.POST('/api/studies/{studyId}/insights', { params: { path: { studyId } }, headers, body: { headline, story: emptyText, observationIds: [...ids] } }),
      );
    },
    { own: true },
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate(undefined, {
      onSuccess: (step) => {
        onClose();
        onMade(step.id!);
      },
    });
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Make an insight"
      intro={
        attached > 0
          ? `${count(attached, 'observation')} will be attached as support; the stance of each can be changed.`
          : 'Evidence can be attached afterwards.'
      }
    >
      <form onSubmit={submit}>
        <Problem of={make.error} />
        <TextField
          label="Headline"
          hint="The finding in one sentence, as you would say it to the product team."
          autoFocus
          value={headline}
          onChange={(e) => setHeadline(e.target.value)}
        />
        <FormEnd save="Make the insight" onLeave={onClose} busy={make.isPending} />
      </form>
    </Dialog>
  );
}
