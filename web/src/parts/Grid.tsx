import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useId, useRef, useState, type ClipboardEvent, type KeyboardEvent, type ReactNode } from 'react';
import { toast } from 'sonner';
import { count } from './words';
import { usePartActions } from './actions/registry';
import { areaOf, blockOf, cellsOf, filledDown, moved, placed, textOf, type Cell } from './cells';
import { grid, type GridActs } from './gridActions';

export interface GridColumn {
  key: string;
  name: string;
  /** What stands in the head, with what can be done to the column. */
  head?: ReactNode;
  width: number;
  /** Values offered while typing. */
  offered?: readonly string[];
  read?: boolean;
  /** How a value is drawn, where it is not its own words. */
  draw?: (value: string) => ReactNode;
}

interface Props {
  label: string;
  columns: readonly GridColumn[];
  rows: number;
  /** Another object whenever a value may be another. */
  data: unknown;
  /** Stable over changes, so that a row stays itself. */
  rowKey: (row: number) => number;
  rowName: (row: number) => string;
  valueAt: (cell: Cell) => string;
  /** Why a value was not taken; it stands in its cell until it is. */
  problemAt: (cell: Cell) => string | undefined;
  set: (values: { cell: Cell; value: string }[]) => void;
  /** Enter on a row's first column without typing, or a click on its last. */
  end: (row: number) => ReactNode;
  /** How high it may be. */
  className?: string;
}

const rowHeight = 34;
const page = 14;

/** A grid of values: arrows move, Shift chooses many, typing writes, Ctrl+Enter writes into all that is chosen, Ctrl+D fills down, and blocks are copied and pasted. Only the rows in view are in the page. */
export function Grid({ label, columns, rows, data, rowKey, rowName, valueAt, problemAt, set, end, className = 'max-h-[calc(100vh-250px)]' }: Props) {
  const scroll = useRef<HTMLDivElement>(null);
  const id = useId();
  const [active, setActive] = useState<Cell>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<Cell>({ row: 0, column: 0 });
  const [editing, setEditing] = useState<{ typed: string } | null>(null);
  const at = { row: Math.min(active.row, rows - 1), column: Math.min(active.column, columns.length - 1) };
  const area = areaOf({ row: Math.min(anchor.row, rows - 1), column: Math.min(anchor.column, columns.length - 1) }, at);
  // eslint-disable-next-line react-hooks/incompatible-library -- it tells of every change by rendering anew
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: () => scroll.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    initialRect: { width: 1200, height: 520 },
  });
  const idOf = (cell: Cell) => `${id}-${cell.row}-${cell.column}`;
  const template = columns.map((c) => `${c.width}px`).join(' ') + ' 44px';
  const width = columns.reduce((sum, c) => sum + c.width, 44);

  useEffect(() => {
    virtual.scrollToIndex(at.row);
    document.getElementById(idOf(at))?.scrollIntoView?.({ block: 'nearest', inline: 'nearest' });
  }, [active, at.row, at.column]); // eslint-disable-line react-hooks/exhaustive-deps -- the active cell is followed, also when a key goes to where it is

  const go = (to: Cell, extend = false) => {
    setActive(to);
    if (!extend) setAnchor(to);
  };
  const back = () => scroll.current?.focus({ preventScroll: true });
  const commit = (value: string, all: boolean, then: Cell | null) => {
    setEditing(null);
    back();
    if (all) set(cellsOf(area).map((cell) => ({ cell, value })));
    // A field of one line shows no line ends: a value that was only looked at keeps its own.
    else if (
      value !==
        valueAt(at)
          .replace(/[\r\n]/g, '')
          .trim() ||
      problemAt(at)
    )
      set([{ cell: at, value }]);
    if (then) go(then);
  };
  const step = (key: string) => moved(key, at, rows, columns.length, page, false);
  const gridActs: GridActs = {
    move: ({ key, shift, command }) => go(moved(key, at, rows, columns.length, page, command) ?? at, shift),
    edit: () => setEditing({ typed: valueAt(at) }),
    empty: () => set(cellsOf(area).map((cell) => ({ cell, value: '' }))),
    one: () => go(at),
    fillDown: () => set(filledDown(area, valueAt)),
    all: () => {
      setAnchor({ row: 0, column: 0 });
      setActive({ row: rows - 1, column: columns.length - 1 });
    },
  };
  const heard = usePartActions(grid, editing ? null : gridActs, scroll);
  const keys = (event: KeyboardEvent) => {
    if (editing || event.altKey) return;
    if (heard(event) || event.ctrlKey || event.metaKey || event.key.length > 1) return;
    event.preventDefault();
    setEditing({ typed: event.key });
  };
  const copy = (event: ClipboardEvent) => {
    if (editing) return;
    event.preventDefault();
    const block = Array.from({ length: area.to.row - area.from.row + 1 }, (_, r) =>
      Array.from({ length: area.to.column - area.from.column + 1 }, (_, c) => valueAt({ row: area.from.row + r, column: area.from.column + c })),
    );
    event.clipboardData.setData('text/plain', textOf(block));
  };
  const pasted = (event: ClipboardEvent) => {
    if (editing) return;
    event.preventDefault();
    const block = blockOf(event.clipboardData.getData('text/plain'));
    set(placed(block, area, rows, columns.length));
    // What is more than there are rows is said, and not lost.
    const beyond = block.slice(rows - area.from.row);
    if (beyond.length === 0) return;
    toast(`${count(block.length - beyond.length, 'row')} of ${block.length} went in: the table ends there.`, {
      duration: 20_000,
      action: {
        label: beyond.length === 1 ? 'Copy the one that is left' : `Copy the ${beyond.length} that are left`,
        onClick: () => void navigator.clipboard.writeText(textOf(beyond)),
      },
    });
  };
  const acts: RowActs = {
    rowName,
    valueAt,
    problemAt,
    end,
    idOf,
    go,
    reach: setActive,
    edit: (typed) => setEditing({ typed }),
    commit,
    cancel: () => {
      setEditing(null);
      back();
    },
    step,
  };
  return (
    <div
      ref={scroll}
      role="grid"
      aria-label={label}
      aria-rowcount={rows + 1}
      aria-colcount={columns.length}
      aria-multiselectable
      aria-activedescendant={idOf(at)}
      tabIndex={0}
      onKeyDown={keys}
      onCopy={copy}
      onPaste={pasted}
      className={`overflow-auto rounded-std border border-line bg-case text-[13.5px] outline-offset-2 ${className}`}
    >
      <div
        role="row"
        aria-rowindex={1}
        className="sticky top-0 z-10 grid w-max min-w-full border-b border-line bg-paper text-[12.5px] text-ink-soft"
        style={{ gridTemplateColumns: template }}
      >
        {columns.map((column, c) => (
          <div key={column.key} role="columnheader" aria-colindex={c + 1} className="flex min-h-9 items-center truncate px-2 font-medium">
            {column.head ?? column.name}
          </div>
        ))}
      </div>
      <div role="presentation" className="relative min-w-full" style={{ height: virtual.getTotalSize(), width }}>
        {virtual.getVirtualItems().map(({ index: row, start }) => (
          <GridRow
            key={rowKey(row)}
            row={row}
            top={start}
            template={template}
            columns={columns}
            data={data}
            chosen={row >= area.from.row && row <= area.to.row ? `${area.from.column} ${area.to.column}` : ''}
            active={row === at.row ? at.column : -1}
            editing={row === at.row ? editing : null}
            acts={acts}
          />
        ))}
      </div>
    </div>
  );
}

interface RowProps {
  row: number;
  top: number;
  template: string;
  columns: readonly GridColumn[];
  data: unknown;
  /** The first and last chosen column; empty when none is. */
  chosen: string;
  active: number;
  editing: { typed: string } | null;
  acts: RowActs;
}

/** What a row asks of its grid. */
interface RowActs extends Pick<Props, 'rowName' | 'valueAt' | 'problemAt' | 'end'> {
  idOf: (cell: Cell) => string;
  go: (to: Cell, extend?: boolean) => void;
  reach: (to: Cell) => void;
  edit: (typed: string) => void;
  commit: (value: string, all: boolean, then: Cell | null) => void;
  cancel: () => void;
  step: (key: string) => Cell | null;
}

function Row({ row, top, template, columns, chosen, active, editing, acts }: RowProps) {
  const [from, to] = chosen === '' ? [1, 0] : (chosen.split(' ').map(Number) as [number, number]);
  return (
    <div
      role="row"
      aria-rowindex={row + 2}
      className="absolute inset-x-0 grid border-b border-line"
      style={{ top, height: rowHeight, gridTemplateColumns: template }}
    >
      {columns.map((column, c) => {
        const cell = { row, column: c };
        const value = acts.valueAt(cell);
        const problem = acts.problemAt(cell);
        if (c === active && editing)
          return (
            <Editor
              key={column.key}
              name={`${column.name} of ${acts.rowName(row)}`}
              typed={editing.typed}
              offered={column.offered ?? []}
              onDone={(...given) => acts.commit(...given)}
              onCancel={() => acts.cancel()}
              step={(key) => acts.step(key)}
            />
          );
        const edge = problem ? 'text-oxblood outline-2 -outline-offset-2 outline-oxblood' : c === active ? 'outline-2 -outline-offset-2 outline-verdigris' : '';
        return (
          <div
            key={column.key}
            id={acts.idOf(cell)}
            role="gridcell"
            aria-colindex={c + 1}
            aria-selected={c >= from && c <= to}
            aria-label={`${column.name} of ${acts.rowName(row)}: ${value || 'empty'}${problem ? `. Not saved: ${problem}` : ''}`}
            title={problem}
            onMouseDown={(e) => acts.go(cell, e.shiftKey)}
            onMouseEnter={(e) => e.buttons === 1 && acts.reach(cell)}
            onDoubleClick={() => acts.edit(value)}
            className={`flex items-center truncate px-2 ${column.read ? 'font-read text-[15px] font-medium' : ''} ${c >= from && c <= to ? 'bg-wash' : ''} ${edge}`}
          >
            <span className="truncate">{column.draw && !problem ? column.draw(value) : value}</span>
          </div>
        );
      })}
      <div role="gridcell" aria-colindex={columns.length + 1} className="flex items-center justify-center">
        {acts.end(row)}
      </div>
    </div>
  );
}

/** A row is drawn anew only when something in it has changed. What it asks of the grid may be older: it works on the cell that is given, and the row that is written in is always new. */
const GridRow = memo(Row, (before, after) => (Object.keys(before) as (keyof RowProps)[]).every((key) => key === 'acts' || Object.is(before[key], after[key])));

interface EditorProps {
  name: string;
  typed: string;
  offered: readonly string[];
  onDone: (value: string, all: boolean, then: Cell | null) => void;
  onCancel: () => void;
  step: (key: string) => Cell | null;
}

/** The cell that is being written: Enter and Tab keep and go on, Ctrl+Enter writes into all that is chosen, Escape leaves it as it was. */
function Editor({ name, typed, offered, onDone, onCancel, step }: EditorProps) {
  const list = useId();
  const done = useRef(false);
  const finish = (act: () => void) => {
    if (done.current) return;
    done.current = true;
    act();
  };
  return (
    <>
      <input
        autoFocus
        aria-label={name}
        list={list}
        defaultValue={typed}
        className="z-10 w-full bg-case px-2 outline-2 -outline-offset-2 outline-verdigris"
        onKeyDown={(event) => {
          const value = event.currentTarget.value.trim();
          event.stopPropagation();
          if (event.key === 'Escape') finish(onCancel);
          if (event.key !== 'Enter' && event.key !== 'Tab') return;
          event.preventDefault();
          const then = event.key === 'Tab' ? step(event.shiftKey ? 'ArrowLeft' : 'ArrowRight') : step('ArrowDown');
          finish(() => onDone(value, event.key === 'Enter' && (event.ctrlKey || event.metaKey), event.ctrlKey || event.metaKey ? null : then));
        }}
        onBlur={(event) => finish(() => onDone(event.target.value.trim(), false, null))}
      />
      <datalist id={list}>
        {offered.map((value) => (
          <option key={value} value={value} />
        ))}
      </datalist>
    </>
  );
}
