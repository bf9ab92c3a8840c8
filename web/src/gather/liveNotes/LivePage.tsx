import { useQuery } from '@tanstack/react-query';
import { useParams } from '@tanstack/react-router';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { LiveRoom } from './LiveRoom';

/** The notes on one session: begun, running, or ended. */
export function LivePage() {
  const { studyId, sessionId } = useParams({ from: '/team/studies/$studyId/gather/sessions/$sessionId/live' });
  const live = useQuery(queries.liveNotes(studyId, sessionId));
  const session = useQuery(queries.sessions(studyId)).data?.find((s) => s.id === sessionId);
  const begin = useWrite(() => ask(api.POST('/api/studies/{studyId}/live-notes/of/{sessionId}', { params: { path: { studyId, sessionId } } })), {
    quiet: true,
  });
  if (!live.data || !session) return <Waiting problem={live.error} />;
  const { notes } = live.data;
  if (!notes)
    return (
      <Empty
        title={`Notes on “${session.title}”`}
        sample="12:04  the lamp on the ramp goes out, four people leave  #reads-the-signs"
        action={
          <Button look="main" autoFocus disabled={begin.isPending} onClick={() => begin.mutate(undefined)}>
            Start the clock
          </Button>
        }
      >
        While the session runs, everyone of the team can write here at once. Each line carries its time and may be tagged while it is typed; afterwards the
        lines are a source like any other.
      </Empty>
    );
  return <LiveRoom key={notes.id} studyId={studyId} session={session} notes={notes} fetchedAt={live.dataUpdatedAt} onBegin={() => begin.mutate(undefined)} />;
}
