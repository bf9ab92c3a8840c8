import { useQuery } from '@tanstack/react-query';
import { queries } from '@/api/queries';
import { useSteps } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Waiting } from '@/parts/Empty';
import { moment } from '@/parts/words';
import { useStudyId } from '@/shared/useStudyId';

/** One's own latest steps, each with undo. */
export function StepsDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const studyId = useStudyId();
  const { data: steps, error } = useQuery({ ...queries.steps(studyId), enabled: open });
  const { undo, redo } = useSteps();
  const redoable = steps?.findLast((step, i) => step.undone && steps.slice(0, i).every((newer) => newer.undone));
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Your steps"
      intro={studyId === null ? 'What you did outside studies: tag set, exhibits.' : 'What you did in this study, newest first.'}
    >
      {!steps && <Waiting problem={error} />}
      {steps?.length === 0 && <p className="text-ink-soft">Nothing yet. Each mark, tag, theme and text you change is a step that can be taken back.</p>}
      <ol className="max-h-[60vh] divide-y divide-line overflow-y-auto">
        {steps?.map((step) => (
          <li key={step.actionId} className="flex items-center gap-3 py-1.5">
            <span className="min-w-0 flex-1">
              <span className={`block truncate ${step.undone ? 'text-ink-soft line-through' : ''}`} title={step.label}>
                {step.label}
              </span>
              <span className="text-[12px] text-ink-soft">
                {moment(step.at)}
                {step.undone && ', undone'}
              </span>
            </span>
            {!step.undone && (
              <Button look="quiet" aria-label={`Undo: ${step.label}`} onClick={() => void undo(studyId, step.actionId)}>
                Undo
              </Button>
            )}
            {step === redoable && (
              <Button look="quiet" aria-label={`Redo: ${step.label}`} onClick={() => void redo(studyId)}>
                Redo
              </Button>
            )}
          </li>
        ))}
      </ol>
    </Dialog>
  );
}
