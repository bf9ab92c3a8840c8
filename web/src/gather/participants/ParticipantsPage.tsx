import { useQuery } from '@tanstack/react-query';
import { useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { AddParticipant } from './AddParticipant';
import { AttributeDialog } from './AttributeDialog';
import { GatherTabs } from '@/gather/sources/GatherTabs';
import { ParticipantGrid } from './ParticipantGrid';

/** Everyone who was studied, and what is known of each. */
export function ParticipantsPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { data: participants, error } = useQuery(queries.participants(studyId));
  const [adding, setAdding] = useState<'person' | 'attribute' | null>(null);
  if (!participants) return <Waiting problem={error} />;
  const add = (
    <>
      <Button onClick={() => setAdding('attribute')}>Add an attribute</Button>
      <Button look="main" onClick={() => setAdding('person')}>
        Add a participant
      </Button>
    </>
  );
  const nobody = participants.people.length === 0;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1240px] px-5 py-6">
        <GatherTabs studyId={studyId}>{!nobody && add}</GatherTabs>
        {nobody ? (
          <Empty title="Nobody yet" sample="P03 Sorrel, Skelda, 80 crossings a year" action={add}>
            A person has a code and a pseudonym, and the facts you want to compare by. A survey’s table brings its people along; a speaker of a transcript can
            become one.
          </Empty>
        ) : (
          <>
            <ParticipantGrid studyId={studyId} participants={participants} />
            <p className="mt-2 text-[12.5px] text-ink-soft">
              Type to write, Shift and arrows to choose many, Ctrl Enter to write one value into all of them, Ctrl D to fill down; blocks from a spreadsheet can
              be pasted. Real names never leave the team.
            </p>
          </>
        )}
      </div>
      {adding === 'person' && <AddParticipant studyId={studyId} next={participants.people.length + 1} onClose={() => setAdding(null)} />}
      {adding === 'attribute' && <AttributeDialog studyId={studyId} attribute={null} filled={0} onClose={() => setAdding(null)} />}
    </div>
  );
}
