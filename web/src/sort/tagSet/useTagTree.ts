import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, ask } from '@/api/client';
import { inTurn } from '@/api/inTurn';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { isBundle } from '@/parts/bundles';
import { fold } from '@/parts/findTags';
import { placeBy, type Place } from '@/shared/tagPlaces';
import { useKept } from '@/shared/useKept';
import { usePlaceTags } from '@/shared/usePlaceTags';
import type { TreeActs } from './actions';
import { textOf, type EditedTag } from './edited';
import { outlineOf, placedAt, type Line } from './outline';

const areIds = (value: unknown): value is number[] => Array.isArray(value) && value.every((id) => typeof id === 'number');
const isFlag = (value: unknown): value is boolean => typeof value === 'boolean';
const noIds: number[] = [];

/** What a tag says of itself, to be looked for. */
export const saying = (t: EditedTag) => fold(`${t.name} ${t.definition} ${t.isNot} ${t.aliases.join(' ')}`);

interface Given {
  stored: readonly EditedTag[];
  /** What is looked for, folded; empty for nothing. */
  wanted: string;
  opened: number | 'new' | undefined;
  onOpen: (tag: number | undefined) => void;
  /** The keys go on in the tree, at a line. */
  onBack: (id: number) => void;
}

/** The tag set as a tree that is edited: what is open, selected, chosen and cut, and what moves on its way to the server. */
export function useTagTree({ stored, wanted, opened, onOpen, onBack }: Given) {
  const cache = useQueryClient();
  const [closedIds, setClosed] = useKept<number[]>('tag-set-closed', noIds, areIds);
  const [byName, setByName] = useKept('tag-set-by-name', false, isFlag);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [cut, setCut] = useState<ReadonlySet<number>>(new Set());
  const [renaming, setRenaming] = useState<number | null>(null);
  /** What is on its way to the server, as it is shown already. */
  const [moved, setMoved] = useState<readonly { ids: readonly number[]; to: Place }[]>([]);
  /** Where loose tags go: the line of the frame that was selected last. */
  const [target, setTarget] = useState<number | null>(null);
  const all = useMemo(() => moved.reduce<readonly EditedTag[]>((now, { ids, to }) => placedAt(now, ids, to), stored), [stored, moved]);
  const tags = useMemo(() => all.filter((t) => !isBundle(t)), [all]);
  const fits = useMemo(() => (wanted === '' ? null : (t: EditedTag) => saying(t).includes(wanted)), [wanted]);
  const { frame, loose } = useMemo(() => outlineOf(tags, { closed: new Set(closedIds), byName, fits }), [tags, closedIds, byName, fits]);
  /** Every line, whatever is closed. */
  const whole = useMemo(() => {
    const open = outlineOf(tags, { closed: new Set(), byName, fits });
    return [...open.frame, ...open.loose].map((l) => l.tag);
  }, [tags, byName, fits]);
  const focused = typeof opened === 'number' ? all.find((t) => t.id === opened) : undefined;
  // It stays where they go while something is looked for that it does not fit.
  const goal = tags.find((t) => t.id === target);
  const place = usePlaceTags();
  /** Each is asked of what the one before it has left. What is refused is said where all refusals are. */
  const afterThat = (write: () => Promise<unknown>) => inTurn(write).catch(() => undefined);
  const put = (ids: readonly number[], to: Place) => {
    if (ids.length === 0) return;
    const step = { ids, to };
    setMoved((now) => [...now, step]);
    void afterThat(() => place.mutateAsync(step)).then(() => setMoved((now) => now.filter((one) => one !== step)));
  };
  const change = useWrite(({ id, name }: { id: number; name: string }) => {
    const tag = cache.getQueryData(queries.tagSet().queryKey)?.find((t) => t.id === id);
    if (!tag) throw new Error('The tag has gone meanwhile.');
    return ask(api.PUT('/api/tags/{id}', { params: { path: { id } }, body: { text: textOf(tag, { name }), version: tag.version } }));
  });
  const focus = (id: number) => {
    onOpen(id);
    if (frame.some((l) => l.tag.id === id)) setTarget(id);
  };
  const choose = (id: number) => setChosen(new Set(chosen.has(id) ? [...chosen].filter((one) => one !== id) : [...chosen, id]));
  const toggle = (id: number) => setClosed(closedIds.includes(id) ? closedIds.filter((one) => one !== id) : [...closedIds, id]);
  /** Those that an act means: the chosen ones in their order, or the one that is selected. */
  const meant = (lines: readonly Line<EditedTag>[]) =>
    chosen.size > 0
      ? lines.filter((l) => chosen.has(l.tag.id)).map((l) => l.tag.id)
      : focused && lines.some((l) => l.tag.id === focused.id)
        ? [focused.id]
        : [];
  /** From the pile under the line of the frame that was selected last, or from the frame to the pile; the next line is selected. */
  const toOtherSide = (lines: readonly Line<EditedTag>[], isLoose: boolean) => {
    const ids = meant(lines);
    if (ids.length === 0) return;
    if (isLoose && !goal) return void toast('Select the tag in the frame under which it is to go first.');
    const at = lines.findIndex((l) => l.tag.id === ids[0]);
    const next = [...lines.slice(at), ...lines.slice(0, at).toReversed()].find((l) => !ids.includes(l.tag.id));
    put(ids, { parentId: isLoose ? goal!.id : null, beforeTagId: null });
    setChosen(new Set());
    onOpen(next?.tag.id);
  };
  /** What keys do with the selected one of some lines. */
  const actsOf = (lines: readonly Line<EditedTag>[], isLoose: boolean, onDefine: () => void): TreeActs => {
    const at = lines.findIndex((l) => l.tag.id === focused?.id);
    const line = lines[at];
    const go = (to: number, chooses = false) => {
      const next = lines[Math.max(0, Math.min(lines.length - 1, to))];
      if (!next) return;
      if (chooses && line) setChosen(new Set([...chosen, line.tag.id, next.tag.id]));
      focus(next.tag.id);
    };
    const withLine = (act: (line: Line<EditedTag>) => void) => () => {
      if (line) act(line);
      return line !== undefined;
    };
    return {
      go: (by, chooses) => go(by === 'first' ? 0 : by === 'last' ? lines.length - 1 : at < 0 ? 0 : at + by, chooses),
      unfold: withLine((one) => (one.children > 0 && !one.open ? toggle(one.tag.id) : go(at + (one.children > 0 ? 1 : 0)))),
      fold: withLine((one) => (one.children > 0 && one.open && wanted === '' ? toggle(one.tag.id) : go(lines.findIndex((l) => l.tag.id === one.tag.parentId)))),
      place: (key) => {
        if (!line) return false;
        const upOrDown = key === 'ArrowUp' || key === 'ArrowDown';
        if (byName && upOrDown) toast('They are in order from A to Z now. Order by hand to move them up and down.');
        const to =
          byName && upOrDown
            ? null
            : placeBy(
                lines.map((l) => l.tag),
                line.tag.id,
                key,
              );
        if (to) put([line.tag.id], to);
        return true;
      },
      otherSide: () => toOtherSide(lines, isLoose),
      cut: () => setCut(new Set(meant(lines))),
      paste: () => {
        if (cut.size === 0 || !line) return false;
        put([...cut], { parentId: line.tag.id, beforeTagId: null });
        setCut(new Set());
        setChosen(new Set());
        return true;
      },
      choose: withLine((one) => choose(one.tag.id)),
      rename: withLine((one) => setRenaming(one.tag.id)),
      define: withLine(onDefine),
    };
  };
  const chooseNone = () => {
    setChosen(new Set());
    setCut(new Set());
  };
  const rename = (tag: EditedTag, name: string | null) => {
    setRenaming(null);
    onBack(tag.id);
    if (name !== null && name.trim() !== '' && name !== tag.name) void afterThat(() => change.mutateAsync({ id: tag.id, name }));
  };
  return {
    all,
    tags,
    frame,
    loose,
    whole,
    focused,
    goal,
    byName,
    setByName,
    chosen,
    cut,
    renaming,
    put,
    focus,
    choose,
    toggle,
    meant,
    actsOf,
    chooseNone,
    rename,
  };
}
