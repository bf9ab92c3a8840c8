import { useQuery } from '@tanstack/react-query';
import { useMemo, useState, type ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { Link } from '@tanstack/react-router';
import { queries } from '@/api/queries';
import { Waiting } from '@/parts/Empty';
import { count } from '@/parts/words';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { materialOf, type Material, type MaterialView } from './material';
import { BlindLine } from '@/mark/blind/BlindLine';
import { PictureDesk } from '@/mark/pictures/PictureDesk';
import type { Pane } from './positions';
import { Reading } from './Reading';
import { PlayerDesk } from '@/mark/recordings/PlayerDesk';
import { standsFor } from '@/parts/bundles';
import { fits, type Show } from './show';
import { ShowBar } from './ShowBar';
import type { TurnEditor } from './turnEditor';

interface Props {
  sourceId: number;
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  people: readonly Schemas['Participant'][];
  at?: number | undefined;
  place?: number | undefined;
  pane: Pane;
  turnEditor: TurnEditor;
  keyed: boolean;
  /** The observation that looks for its place, and what to do when it has one. */
  put?: number | undefined;
  onPut?: () => void;
  show: Show | undefined;
  onShow: (show: Show | undefined) => void;
  /** What stands above the text. */
  children?: ReactNode;
}

const materials: Record<Material, MaterialView> = { text: Reading, recording: PlayerDesk, picture: PictureDesk };

// The words can be read before their marks are there.
const nowhere: readonly [] = [];
const none: readonly Schemas['Observation'][] = [];

/** One open source: its words to read and mark, or the recording or picture that it is. */
export function SourcePane({ sourceId, tags, look, people, at, place, pane, turnEditor, keyed, put, onPut = () => undefined, show, onShow, children }: Props) {
  const source = useQuery(queries.source(sourceId));
  // Asked for beside the words: keys that go by sentence work from the first moment.
  const sentences = useQuery(queries.sentences(sourceId)).data;
  const observations = useQuery(queries.observations(sourceId)).data ?? none;
  const looks = useQuery({ ...queries.toLookAt(source.data?.studyId ?? 0), enabled: source.data !== undefined }).data ?? [];
  const drafts = useMemo(() => new Set(tags.filter((t) => !t.tag.settled).map((t) => t.tag.id)), [tags]);
  // A mark that is made while some are hidden stays in sight, whatever is asked for.
  const [before, setBefore] = useState({ show, newest: Infinity });
  const newest = useMemo(() => observations.reduce((most, o) => Math.max(most, o.id), 0), [observations]);
  if (before.show !== show || (before.newest === Infinity && observations !== none)) setBefore({ show, newest: observations === none ? Infinity : newest });
  const asked = useMemo(
    () => (show?.tagIds ? { ...show, tagIds: [...standsFor(tags.map((t) => t.tag), show.tagIds)] } : show), // prettier-ignore
    [show, tags],
  );
  const inSight = useMemo(
    () => (asked ? observations.filter((o) => o.id > before.newest || fits(o, asked, (id) => drafts.has(id))) : observations),
    [observations, asked, drafts, before],
  );
  const hidden = useMemo(() => {
    const seen = new Set(inSight);
    return seen.size < observations.length ? observations.filter((o) => !seen.has(o)) : none;
  }, [observations, inSight]);
  const remarks = useQuery(queries.marginNotes(sourceId)).data ?? nowhere;
  const notes = remarks.length + observations.filter((o) => o.note !== '' || o.unsure).length;
  const here = looks.filter((l) => l.sourceId === sourceId);
  const [uncovered, setUncovered] = useState(false);
  const [frame, setFrame] = useState<HTMLElement | null>(null);
  const masks = useQuery(queries.masksOf(sourceId)).data ?? null;
  const masked = masks ?? nowhere;
  const View = source.data && materials[materialOf(source.data)];
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      {children}
      {source.data && <BlindLine studyId={source.data.studyId} sourceId={sourceId} />}
      {source.data && here.length > 0 && put === undefined && (
        <p className="border-b border-line bg-brass-wash px-5 py-1.5 text-[13px]">
          {count(here.length, 'observation')} to look at after a correction.{' '}
          <Link to="/studies/$studyId/mark/to-look-at" params={{ studyId: source.data.studyId }} className="text-sky underline underline-offset-2">
            Look at {here.length === 1 ? 'it' : 'them'}
          </Link>
        </p>
      )}
      {masked.length > 0 && (
        <p className="flex items-center gap-3 border-b border-line px-5 py-1 text-[12.5px] text-ink-soft">
          {count(masked.length, 'place')} masked for readers
          <button type="button" aria-pressed={uncovered} className="min-h-6 text-sky hover:underline" onClick={() => setUncovered(!uncovered)}>
            {uncovered ? 'Cover them' : 'Show the words'}
          </button>
        </p>
      )}
      {source.data && materialOf(source.data) === 'text' && put === undefined && (
        <ShowBar
          studyId={source.data.studyId}
          sourceId={sourceId}
          speakers={source.data.line.speakers}
          notes={notes}
          show={show}
          onShow={onShow}
          observations={observations}
          hidden={hidden.length}
          tags={tags}
          look={look}
        />
      )}
      <div ref={setFrame} data-frame className="@container relative min-h-0 flex-1">
        <div className="h-full overflow-y-auto" data-testid="reading-scroll">
          {source.data && View && sentences ? (
            <View
              key={`${sourceId} ${place ?? ''}`}
              source={source.data}
              sentences={sentences}
              stored={inSight}
              hidden={hidden}
              tags={tags}
              look={look}
              people={people}
              at={at}
              place={place}
              pane={pane}
              turnEditor={turnEditor}
              keyed={keyed}
              frame={frame}
              masks={masks}
              covered={uncovered ? nowhere : masked}
              putting={here.find((l) => l.observationId === put)}
              onPut={onPut}
            />
          ) : (
            <Waiting problem={source.error} />
          )}
        </div>
      </div>
    </div>
  );
}
