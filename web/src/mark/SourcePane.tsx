import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Waiting } from '@/parts/Empty';
import type { TagLook } from '@/parts/tagLook';
import { KeptMedia } from './KeptMedia';
import type { Pane } from './positions';
import { Reading } from './Reading';

interface Props {
  sourceId: number;
  tags: readonly Schemas['TagUse'][];
  look: (id: number) => TagLook;
  people: readonly Schemas['Participant'][];
  at?: number | undefined;
  place?: number | undefined;
  pane: Pane;
  keyed: boolean;
  /** What stands above the text. */
  children?: ReactNode;
}

// The words can be read before their marks are there.
const none: readonly Schemas['Observation'][] = [];

/** One open source: its words to read and mark, or the recording or picture that it is. */
export function SourcePane({ sourceId, tags, look, people, at, place, pane, keyed, children }: Props) {
  const source = useQuery(queries.source(sourceId));
  const observations = useQuery(queries.observations(sourceId)).data ?? none;
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      {children}
      <div className="@container min-h-0 flex-1 overflow-y-auto" data-testid="reading-scroll">
        {source.data?.text === '' ? (
          <KeptMedia source={source.data} />
        ) : source.data ? (
          <Reading
            key={`${sourceId} ${place ?? ''}`}
            source={source.data}
            stored={observations}
            tags={tags}
            look={look}
            people={people}
            at={at}
            place={place}
            pane={pane}
            keyed={keyed}
          />
        ) : (
          <Waiting problem={source.error} />
        )}
      </div>
    </div>
  );
}
