import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { Popover } from 'radix-ui';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { Waiting } from '@/parts/Empty';

interface Props {
  studyId: number;
  sourceId: number;
  speakers: Schemas['SourceLine']['speakers'];
}

/** The gist of a source: the few sentences whose words most of the others share, in their order, each leading to its place. */
export function Gist({ studyId, sourceId, speakers }: Props) {
  return (
    <Popover.Root>
      <Popover.Trigger className="min-h-6 underline decoration-dotted underline-offset-4 hover:text-ink">gist</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={12}
          aria-label="The gist"
          className="z-40 max-h-[70vh] w-[520px] animate-rise overflow-y-auto rounded-std border border-line bg-case p-4 shadow-float"
        >
          <Sentences {...{ studyId, sourceId, speakers }} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Sentences({ studyId, sourceId, speakers }: Props) {
  const { data: gist, error } = useQuery(queries.gist(sourceId));
  if (!gist) return <Waiting problem={error} />;
  if (gist.length === 0) return <p className="text-[13px] text-ink-soft">It is short: read it as it is.</p>;
  const name = (id: number | null) => speakers.find((s) => s.id === id)?.label;
  return (
    <>
      <p className="text-[12.5px] text-ink-soft">Chosen by count: of each part of the text, the sentence whose words most of the others share.</p>
      <ol>
        {gist.map((sentence) => (
          <li key={sentence.start} className="border-t border-line py-2 first:border-t-0">
            <Popover.Close asChild>
              <Link
                to="/studies/$studyId/mark"
                params={{ studyId }}
                search={{ source: sourceId, place: sentence.start }}
                className="block font-read text-[15.5px] leading-[1.5] hover:text-sky"
              >
                {sentence.words}
              </Link>
            </Popover.Close>
            <span className="text-[12px] text-ink-soft">
              {[name(sentence.speakerId), sentence.ties.length > 0 && `shares ${sentence.ties.map((t) => `“${t}”`).join(', ')}`].filter(Boolean).join('; ')}
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}
