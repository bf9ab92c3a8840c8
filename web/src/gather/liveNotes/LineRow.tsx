import { textAt } from '@/api/waiting/writeTo';
import { Star, X } from 'lucide-react';
import { useState } from 'react';
import { api, ask } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { AutoText } from '@/shared/AutoText';
import { Button } from '@/parts/Button';
import { TagLabel } from '@/parts/TagLabel';
import type { TagLook } from '@/parts/tagLook';
import { clock } from '@/parts/words';
import type { ShownLine } from './lines';

interface Props {
  studyId: number;
  line: ShownLine;
  look: (id: number) => TagLook;
  ended: boolean;
  cut: boolean;
}

const aside = 'opacity-0 group-hover:opacity-100 focus:opacity-100';

/** One line: when, who, the words, its tags. It can be mended, starred and removed while the notes run. */
export function LineRow({ studyId, line, look, ended, cut }: Props) {
  const [changing, setChanging] = useState(false);
  const path = { studyId, lineId: line.id ?? 0 };
  const star = useWrite((starred: boolean) => ask(api.PUT('/api/studies/{studyId}/live-notes/lines/{lineId}/star', { params: { path }, body: { starred } })), {
    quiet: true,
  });
  const untag = useWrite((tagId: number) =>
    ask(api.DELETE('/api/studies/{studyId}/live-notes/lines/{lineId}/tags/{tagId}', { params: { path: { ...path, tagId } } })),
  );
  const remove = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/live-notes/lines/{lineId}', { params: { path } })));
  const able = !ended && line.id !== null;
  return (
    <li
      className={`group grid grid-cols-[52px_104px_minmax(0,1fr)_auto] items-baseline gap-x-4 border-b py-1.5 ${line.waits && cut ? 'border-dashed border-brass' : 'border-line'}`}
    >
      <span className="text-right text-[12.5px] text-ink-soft tabular-nums">{clock(line.beginMs)}</span>
      <span className="truncate text-[13px] font-medium" title={line.by}>
        {line.by}
      </span>
      <div className="min-w-0">
        {changing && able && line.id !== null ? (
          <AutoText
            label="Words of this line"
            value={line.words}
            path={textAt('/api/studies/{studyId}/live-notes/lines/{lineId}/text', { studyId, lineId: line.id })}
            what="Line of live notes"
            className="font-read text-[16px]"
          />
        ) : (
          <span className="font-read text-[16px] leading-[1.5] wrap-anywhere">{line.words}</span>
        )}
        {line.tagIds.length > 0 && (
          <span className="ml-3 inline-flex flex-wrap gap-1.5 align-middle">
            {line.tagIds.map((id) => (
              <span key={id} className="inline-flex items-center">
                <TagLabel look={look(id)} />
                {able && (
                  <button
                    type="button"
                    aria-label={`Remove the tag “${look(id).name}”`}
                    className={`grid size-6 place-items-center text-ink-soft hover:text-oxblood ${changing ? '' : aside}`}
                    onClick={() => untag.mutate(id)}
                  >
                    <X aria-hidden className="size-3" />
                  </button>
                )}
              </span>
            ))}
          </span>
        )}
      </div>
      <span className="flex items-center gap-1">
        {able && (
          <>
            {changing && (
              <Button look="quiet" className="!min-h-6 !px-2 !py-0 hover:!text-oxblood" onClick={() => remove.mutate(undefined)}>
                Remove
              </Button>
            )}
            <Button
              look="quiet"
              aria-label={changing ? 'Done with this line' : `Change “${line.words}”`}
              className={`!min-h-6 !px-2 !py-0 ${changing ? '' : aside}`}
              onClick={() => setChanging(!changing)}
            >
              {changing ? 'Done' : 'Change'}
            </Button>
          </>
        )}
        {(able || line.starred) && (
          <button
            type="button"
            aria-label={`Star “${line.words}”`}
            aria-pressed={line.starred}
            disabled={!able}
            onClick={() => star.mutate(!line.starred)}
            className={`grid size-6 place-items-center ${line.starred ? '' : aside}`}
          >
            <Star aria-hidden className={`size-4 ${line.starred ? 'fill-brass text-brass' : 'text-ink-soft'}`} />
          </button>
        )}
      </span>
    </li>
  );
}
