import { useState, type FormEvent } from 'react';
import { api, ask } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Dialog } from '@/parts/Dialog';
import { FormEnd } from '@/parts/FormEnd';
import { Problem, TextField } from '@/parts/Field';
import { count } from '@/parts/words';

interface Props {
  studyId: number;
  observationIds: readonly number[];
  suggestion?: string;
  onClose: () => void;
  onMade: (insightId: number) => void;
}

/** From a selection of observations to an insight in one step: the headline is all that is asked. */
export function MakeInsight({ studyId, observationIds, suggestion = '', onClose, onMade }: Props) {
  const [headline, setHeadline] = useState(suggestion);
  const make = useWrite(
    () =>
      ask(api.POST('/api/studies/{studyId}/insights', { params: { path: { studyId } }, body: { headline, story: '', observationIds: [...observationIds] } })),
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
        observationIds.length > 0
          ? `${count(observationIds.length, 'observation')} will be attached as support; the stance of each can be changed.`
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
