import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { queries } from '@/api/queries';
import { useSettled } from '@/parts/useSettled';
import { count } from '@/parts/words';
import { OldAndNew } from './OldAndNew';

interface Props {
  id: number;
  basedOn: string;
  text: string;
  changed: boolean;
}

const pause = 400;
const mostShown = 60;

/** What a correction will do, while it is typed: how much is changed, and what becomes of the observations. */
export function CorrectionSide({ id, basedOn, text, changed }: Props) {
  const settled = useSettled(text, pause);
  const { data, error } = useQuery({ ...queries.correctionPreview(id, settled, basedOn), enabled: changed, placeholderData: keepPreviousData });
  if (!changed || (!data && !error))
    return (
      <p className="text-ink-soft">
        Mend the words here, or take the text of a corrected file. What was marked stays on its words: what was only moved moves along, what was rewritten is
        listed for a look, and nothing is dropped. The text as it came in is kept.
      </p>
    );
  if (!data)
    return (
      <p role="alert" className="text-oxblood">
        {error!.message}
      </p>
    );
  const changedOnes = data.others.filter((o) => o.fate === 'changed').length;
  const gone = data.others.length - changedOnes;
  return (
    <>
      <p className="mb-2 text-[14.5px]">
        <span className="font-semibold">{count(data.changes, 'place')}</span> in the text {data.changes === 1 ? 'differs' : 'differ'}.
      </p>
      <ul className="mb-4 space-y-0.5" aria-label="Observations">
        <li>{count(data.same, 'observation')} on the same words</li>
        <li className={changedOnes > 0 ? 'font-semibold text-brass' : 'text-ink-soft'}>{changedOnes} on changed words, to look at</li>
        <li className={gone > 0 ? 'font-semibold text-brass' : 'text-ink-soft'}>{gone} whose words are taken out, to look at</li>
        {data.newSpeakers.length > 0 && <li>new speakers: {data.newSpeakers.join(', ')}</li>}
      </ul>
      <ul aria-label="Observations to look at" className="space-y-4">
        {data.others.slice(0, mostShown).map((o) => (
          <li key={o.id} className="border-t border-line pt-3">
            <OldAndNew old={o.oldWords} now={o.newWords} gone={o.fate === 'gone'} />
          </li>
        ))}
      </ul>
      {data.others.length > mostShown && <p className="mt-3 text-ink-soft">and {data.others.length - mostShown} more, which will be on the list</p>}
    </>
  );
}
