import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useRef, useState, type FormEvent, type PointerEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Dialog } from '@/parts/Dialog';
import { Problem } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';

interface Props {
  sourceId: number;
  sounds: boolean;
  /** The picture, or the frame of the film that is shown; null for sound alone. */
  frame: string | null;
  /** The time of the film that is chosen; null for none. */
  stretch: { beginMs: number; endMs: number } | null;
  onClose: () => void;
}

type Cover = Schemas['Cover'];

const whole = 10_000;
const edges = [
  ['x', 'left'],
  ['y', 'top'],
  ['width', 'width'],
  ['height', 'height'],
] as const;
const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
/** A cover moved or sized as far as the picture goes. */
const kept = (cover: Cover): Cover => {
  const [x, y] = [Math.min(Math.max(0, cover.x), whole - 1), Math.min(Math.max(0, cover.y), whole - 1)];
  return { ...cover, x, y, width: Math.min(Math.max(1, cover.width), whole - x), height: Math.min(Math.max(1, cover.height), whole - y) };
};

/** How people are protected in what leaves of a recording or picture; what came in stays as it is. */
export function Protect(props: Props) {
  const { data } = useQuery(queries.protection(props.sourceId));
  return data ? <Protecting {...props} was={data} /> : null;
}

function Protecting({ sourceId, sounds, frame, stretch, onClose, was }: Props & { was: Schemas['Protection'] }) {
  const [voice, setVoice] = useState(was.voiceChanged);
  const [covers, setCovers] = useState<readonly Cover[]>(was.covers);
  const from = useRef<{ x: number; y: number } | null>(null);
  const [drawn, setDrawn] = useState<Omit<Cover, 'look' | 'beginMs' | 'endMs'> | null>(null);
  const save = useWrite(
    () => ask(api.PUT('/api/sources/{id}/protection', { params: { path: { id: sourceId } }, body: { voiceChanged: voice, covers: [...covers] } })),
    { own: true },
  );
  const add = (box: { x: number; y: number; width: number; height: number }) =>
    setCovers([...covers, kept({ look: 'solid', ...box, beginMs: stretch?.beginMs ?? null, endMs: stretch?.endMs ?? null })]);
  const change = (at: number, to: Partial<Cover>) => setCovers(covers.map((c, i) => (i === at ? kept({ ...c, ...to }) : c)));
  const pointOf = (event: PointerEvent<HTMLElement>) => {
    const { left, top, width, height } = event.currentTarget.getBoundingClientRect();
    return { x: Math.round(((event.clientX - left) / width) * whole), y: Math.round(((event.clientY - top) / height) * whole) };
  };
  const between = (to: { x: number; y: number }) => ({
    x: Math.min(from.current!.x, to.x),
    y: Math.min(from.current!.y, to.y),
    width: Math.abs(from.current!.x - to.x),
    height: Math.abs(from.current!.y - to.y),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate(undefined, { onSuccess: onClose });
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Protect people"
      intro="For readers outside the team. Masked words and names are bleeped wherever a transcript says when they are spoken. Your own recording stays as it is."
      wide
    >
      <form noValidate onSubmit={submit}>
        <Problem of={save.error} />
        {sounds && (
          <label className="mb-3 flex min-h-6 items-center gap-2">
            <input type="checkbox" checked={voice} onChange={(e) => setVoice(e.target.checked)} className="accent-verdigris" />
            Make voices less recognisable
          </label>
        )}
        {frame !== null && (
          <div className="grid grid-cols-[minmax(0,1fr)_250px] gap-4">
            <div
              data-testid="covers"
              className="relative touch-none self-start select-none"
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                from.current = pointOf(e);
              }}
              onPointerMove={(e) => from.current && setDrawn(between(pointOf(e)))}
              onPointerUp={(e) => {
                if (!from.current) return;
                const box = between(pointOf(e));
                from.current = null;
                setDrawn(null);
                if (box.width > 50 && box.height > 50) add(box);
              }}
            >
              <img src={frame} alt="What is covered" draggable={false} className="block w-full rounded-[2px]" />
              {[...covers, ...(drawn ? [{ ...drawn, look: 'solid' as const }] : [])].map((c, i) => (
                <div
                  key={i}
                  className={`absolute border border-brass ${c.look === 'solid' ? 'bg-ink/85' : 'backdrop-blur-md'}`}
                  style={{ left: `${c.x / 100}%`, top: `${c.y / 100}%`, width: `${c.width / 100}%`, height: `${c.height / 100}%` }}
                >
                  <span className="absolute top-0 left-0 bg-case px-1 text-[11px]">{i + 1}</span>
                </div>
              ))}
            </div>
            <div className="text-[12.5px]">
              <p className="mb-2 text-ink-soft">Drag over what is to be covered.</p>
              <ol className="space-y-2">
                {covers.map((c, i) => (
                  <li key={i} aria-label={`Cover ${i + 1}`} className="border-t border-line pt-1.5">
                    <div className="flex items-center gap-1.5">
                      <span className="font-semibold">{i + 1}</span>
                      <select
                        aria-label={`Cover ${i + 1} is`}
                        value={c.look}
                        onChange={(e) => change(i, { look: e.target.value as Cover['look'] })}
                        className="min-h-6 rounded-std border border-line bg-case px-1"
                      >
                        <option value="solid">one colour</option>
                        <option value="blur">blurred</option>
                      </select>
                      <button
                        type="button"
                        aria-label={`Remove cover ${i + 1}`}
                        className="ml-auto grid size-6 place-items-center hover:text-oxblood"
                        onClick={() => setCovers(covers.filter((_, other) => other !== i))}
                      >
                        <X aria-hidden className="size-3.5" />
                      </button>
                    </div>
                    <div className="mt-1 grid grid-cols-4 gap-1">
                      {edges.map(([key, name]) => (
                        <label key={key} className="text-[11px] text-ink-soft">
                          {name} %
                          <input
                            type="number"
                            min={0}
                            max={100}
                            step={0.5}
                            value={c[key] / 100}
                            onChange={(e) => change(i, { [key]: Math.round(Number(e.target.value) * 100) })}
                            className="w-full rounded-std border border-line bg-case px-1 text-[12px] text-ink"
                          />
                        </label>
                      ))}
                    </div>
                    {(c.beginMs !== null || stretch) && (
                      <label className="mt-1 flex min-h-6 items-center gap-1.5">
                        <input
                          type="checkbox"
                          checked={c.beginMs === null}
                          onChange={(e) =>
                            change(i, e.target.checked ? { beginMs: null, endMs: null } : { beginMs: stretch?.beginMs ?? 0, endMs: stretch?.endMs ?? null })
                          }
                          className="accent-verdigris"
                        />
                        all the time{c.beginMs !== null && c.endMs !== null && `, not only ${seconds(c.beginMs)} to ${seconds(c.endMs)}`}
                      </label>
                    )}
                  </li>
                ))}
              </ol>
              <Button className="mt-2" onClick={() => add({ x: 4000, y: 4000, width: 2000, height: 2000 })}>
                Add a cover
              </Button>
              <p className="mt-2 text-ink-soft">A blur can be guessed through. What must not be known is covered.</p>
            </div>
          </div>
        )}
        <div className="mt-4">
          <FormEnd save="Protect" onLeave={onClose} busy={save.isPending} />
        </div>
      </form>
    </Dialog>
  );
}
