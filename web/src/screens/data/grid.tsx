import { type KeyboardEvent, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { Schema } from "../../api/client";
import type { Column } from "../../api/queries";
import { isNumeric } from "../../lib/format";
import { notify } from "../../parts/notices";
import { Cell } from "./cell";
import { CellEditor } from "./cell-editor";
import { ColumnHead, HEAD_HEIGHT } from "./column-head";
import { isWithin, type Place, type Range, rangeOf, sizeOf } from "./range";
import { RangeBar } from "./range-bar";
import { isPlain, type Shown } from "./shown";
import { usePaste } from "./use-paste";
import { useRange } from "./use-range";
import { useRows } from "./use-rows";
import { WhyMissing } from "./why-missing";

type Props = {
  shown: Shown;
  /** How many rows are shown. */
  rows: number;
  /** What stands in the columns that are shown. */
  summaries: (Schema["ColumnSummary"] | undefined)[];
  chosen: number;
  startRow: number;
  /** Rows that a study carried over. */
  isCarried: (row: number) => boolean;
  /** How many columns stay in sight while the others scroll. */
  held: number;
  /** Of a sheet: the column to fill, and whether what stands in it shows. */
  fill?: { column: number; hidden: boolean } | undefined;
  onChoose: (columnId: number) => void;
  /** A text is looked for. */
  onFind: () => void;
};

const ROW = 27;
const NUMBER_WIDTH = 58;
/** Browsers stop at some thirty million pixels; beyond this height the scroll bar is scaled to the rows. */
const TALLEST = 12_000_000;

const WIDTHS: Record<Column["kind"], number> = {
  number: 166,
  "whole-number": 112,
  category: 132,
  "date-time": 152,
  text: 170,
};

/** A virtual grid: only the rows in sight exist, so that a million scroll as a hundred do. */
export function Grid({ shown, rows, summaries, chosen, startRow, isCarried, held, fill, onChoose, onFind }: Props) {
  const { dataset, columns } = shown;
  const frame = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(600);
  const [scroll, setScroll] = useState(0);
  const chosenPlace = Math.max(
    0,
    columns.findIndex((column) => column.id === chosen),
  );
  const [lastActive, setActive] = useState<Place>({ row: startRow, column: chosenPlace });
  /** The corner of the chosen block opposite to the active cell. */
  const [lastAnchor, setAnchor] = useState<Place>(lastActive);
  /** The cell that is typed into and what it begins with: it stays where it is when another cell is chosen, until its text is kept. */
  const [editing, setEditing] = useState<(Place & { start: string }) | null>(null);

  // Rows may have been deleted meanwhile.
  const [active, anchor] = [lastActive, lastAnchor].map(({ row, column }) => ({
    row: Math.max(0, Math.min(rows - 1, row)),
    column,
  })) as [Place, Place];
  const inSight = Math.max(1, Math.floor((height - HEAD_HEIGHT) / ROW));
  const track = Math.min(rows * ROW, TALLEST) + HEAD_HEIGHT;
  const furthest = Math.max(0, rows - inSight);
  const perPixel = furthest / Math.max(1, track - height);
  const first = Math.min(furthest, Math.round(scroll * perPixel));
  const { cell, side, place: placeOf } = useRows(shown, first, inSight + 1, rows);
  const plain = isPlain(shown.view);
  const widths = columns.map((column) => WIDTHS[column.kind]);
  /** How far from the left a column stays; undefined where it scrolls. */
  const heldAt = (place: number) =>
    place < held ? widths.slice(0, place).reduce((sum, width) => sum + width, NUMBER_WIDTH) : undefined;
  const decimals = columns.map((column, place) => column.decimals ?? summaries[place]?.decimals ?? 0);

  const reveal = (row: number) => {
    const wanted = row < first ? row : row >= first + inSight ? row - inSight + 1 : null;
    if (wanted !== null && frame.current) frame.current.scrollTop = Math.ceil(wanted / Math.max(perPixel, 1e-12));
  };
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setHeight(element.clientHeight));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the first sight goes to the row asked for
  useEffect(() => {
    if (startRow > 0 && frame.current) frame.current.scrollTop = Math.max(0, startRow - 4) / Math.max(perPixel, 1e-12);
  }, [height > 0]);

  // Where there is less room than was thought, the active cell stays in sight.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another height asks for it
  useEffect(() => {
    if (active.row > 0) reveal(active.row);
  }, [height]);
  // A sheet opens at the first row that waits for its reading.
  const fillPlace = columns.findIndex((column) => column.id === fill?.column);
  const isRead = fill !== undefined && cell(first, fillPlace) !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the first rows that are read decide
  useEffect(() => {
    if (!isRead || startRow > 0) return;
    const empty = Array.from({ length: rows }, (_, row) => row).find((row) => cell(row, fillPlace) === null);
    if (empty === undefined) return;
    setActive({ row: empty, column: fillPlace });
    setAnchor({ row: empty, column: fillPlace });
    reveal(empty);
  }, [isRead]);

  const go = (place: Place, extend = false) => {
    const next = {
      row: Math.max(0, Math.min(rows - 1, place.row)),
      column: Math.max(0, Math.min(columns.length - 1, place.column)),
    };
    setActive(next);
    if (!extend) setAnchor(next);
    reveal(next.row);
    const column = columns[next.column];
    if (column) onChoose(column.id);
  };
  /** Begins typing into a cell that is read and nobody works out. */
  const edit = (place: Place, start: string) => {
    if (editing !== null || placeOf(place.row) === undefined) return;
    const column = columns[place.column];
    if (column?.formula != null) notify(`${column.name} is worked out by its formula; change that in its properties.`);
    else {
      reveal(place.row);
      setEditing({ ...place, start });
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    if (editing !== null) {
      // The field is not there yet: what is typed meanwhile goes into it.
      if (event.key.length === 1 && !event.ctrlKey && !event.metaKey) {
        event.preventDefault();
        setEditing({ ...editing, start: editing.start + event.key });
      }
      return;
    }
    const step: Record<string, [number, number]> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      PageDown: [inSight, 0],
      PageUp: [-inSight, 0],
      Home: [event.ctrlKey ? -rows : 0, -columns.length],
      End: [event.ctrlKey ? rows : 0, columns.length],
    };
    const by = step[event.key];
    if (by) {
      event.preventDefault();
      go({ row: active.row + by[0], column: active.column + by[1] }, event.shiftKey);
    } else if (event.key === "Escape") {
      setAnchor(active);
    } else if ((event.ctrlKey || event.metaKey) && event.key === "a") {
      event.preventDefault();
      setAnchor({ row: 0, column: 0 });
      setActive({ row: rows - 1, column: columns.length - 1 });
    } else if ((event.ctrlKey || event.metaKey) && event.key === "f") {
      // What the browser finds are the rows in sight alone.
      event.preventDefault();
      onFind();
    } else if ((event.ctrlKey || event.metaKey) && event.key === "d") {
      event.preventDefault();
      block.fillDown();
    } else if (isBlock && (event.key === "Delete" || event.key === "Backspace")) {
      event.preventDefault();
      block.clear();
    } else if (event.key === "Enter" || event.key === "F2") {
      event.preventDefault();
      edit(active, startOf(active.row, active.column));
    } else if (event.key === "Delete" || event.key === "Backspace") {
      edit(active, "");
    } else if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && /[\p{L}\p{N}.,+\-−]/u.test(event.key)) {
      event.preventDefault();
      event.stopPropagation();
      edit(active, event.key);
    }
  };
  const done = (move: boolean) => {
    setEditing(null);
    frame.current?.focus();
    const { row, column } = editing ?? active;
    if (move) go({ row: fills(column) ? nextEmpty(row, column) : row + 1, column });
  };
  const fills = (place: number) => columns[place]?.id === fill?.column;
  /** The next row that waits for its reading, from the top again after the last; rows not read yet may well wait. */
  const nextEmpty = (from: number, column: number) => {
    const after = Array.from({ length: rows - 1 }, (_, k) => (from + 1 + k) % rows);
    return after.find((row) => typeof cell(row, column) !== "string") ?? from + 1;
  };
  /** With what editing a cell begins: nothing where it must not show. */
  const startOf = (row: number, place: number) => (fills(place) && fill?.hidden ? "" : (cell(row, place) ?? ""));
  const range = rangeOf(anchor, active);
  const isBlock = sizeOf(range).cells > 1;
  const onPaste = usePaste(shown, { row: range.top, column: range.left }, placeOf);
  const isHidden = (place: number) => fills(place) && (fill?.hidden ?? false);
  const block = useRange(shown, range, cell, isHidden);
  const [worked, activePlace] = [columns[active.column], placeOf(active.row)];
  const numbers = isBlock ? numbersIn(columns, range, cell, isHidden) : null;

  return (
    <div className="relative flex min-w-0 flex-1 max-lg:flex-none">
      <div
        ref={frame}
        role="grid"
        aria-multiselectable
        tabIndex={0}
        aria-label={`Table of ${dataset.name}`}
        aria-rowcount={rows + 1}
        aria-colcount={columns.length + 1}
        aria-activedescendant={`cell-${active.row}-${active.column}`}
        onKeyDown={onKeyDown}
        onPaste={(event) => editing === null && onPaste(event)}
        onCopy={(event) => editing === null && block.copy(event)}
        onCut={(event) => editing === null && block.cut(event)}
        onScroll={(event) => setScroll(event.currentTarget.scrollTop)}
        className="relative min-w-0 flex-1 select-none overflow-auto rounded-xl border border-hairline bg-sheet focus-visible:outline-1 max-lg:h-[420px] max-lg:flex-none"
      >
        <div role="presentation" style={{ height: track, width: "max-content", minWidth: "100%" }}>
          <div role="rowgroup" className="sticky top-0">
            <div
              role="row"
              aria-rowindex={1}
              className="flex border-b border-hairline bg-paper"
              style={{ height: HEAD_HEIGHT }}
            >
              <div
                role="columnheader"
                className="sticky left-0 z-10 flex shrink-0 flex-col justify-end gap-1 bg-paper px-1.5 pb-1.5 text-ink-soft"
                style={{ width: NUMBER_WIDTH }}
              >
                row
                {plain && <GoToRow rows={rows} onGo={(row) => go({ row, column: active.column })} />}
              </div>
              {columns.map((column, place) => (
                <ColumnHead
                  key={column.id}
                  column={column}
                  summary={summaries[place]}
                  width={widths[place] ?? 120}
                  chosen={column.id === chosen}
                  held={heldAt(place)}
                  onChoose={() => go({ row: active.row, column: place })}
                />
              ))}
            </div>
            {Array.from({ length: Math.min(inSight, rows - first) }, (_, k) => first + k).map((row) => (
              <div
                key={row}
                role="row"
                aria-rowindex={row + 2}
                data-carried={isCarried(placeOf(row) ?? -1) || undefined}
                className="group flex border-b border-hairline/60 data-[carried]:bg-tint"
                style={{ height: ROW }}
              >
                {/* biome-ignore lint/a11y/useKeyWithClickEvents: Shift with arrows, Home and End chooses rows by key */}
                <div
                  role="rowheader"
                  className="sticky left-0 z-[5] shrink-0 cursor-default bg-sheet px-2.5 py-[3px] text-right text-ink-soft group-data-[carried]:bg-tint"
                  style={{ width: NUMBER_WIDTH }}
                  onClick={(event) => {
                    setAnchor({ row: event.shiftKey ? anchor.row : row, column: 0 });
                    setActive({ row, column: columns.length - 1 });
                  }}
                >
                  {(placeOf(row) ?? row) + 1}
                </div>
                {columns.map((column, place) => {
                  const isActive = row === active.row && place === active.column;
                  if (editing?.row === row && editing.column === place) {
                    return (
                      <CellEditor
                        key={column.id}
                        dataset={dataset}
                        column={column}
                        row={placeOf(row) ?? row}
                        width={widths[place] ?? 120}
                        start={editing.start}
                        onDone={done}
                      />
                    );
                  }
                  return (
                    <Cell
                      key={column.id}
                      column={column}
                      text={cell(row, place)}
                      hidden={fills(place) && (fill?.hidden ?? false)}
                      side={side(row, place)}
                      decimals={decimals[place] ?? 0}
                      width={widths[place] ?? 120}
                      held={heldAt(place)}
                      active={isActive}
                      within={isBlock && isWithin(range, row, place)}
                      id={`cell-${row}-${place}`}
                      onPick={(extend) => go({ row, column: place }, extend)}
                      onDrag={() => editing === null && go({ row, column: place }, true)}
                      onEdit={() => edit({ row, column: place }, startOf(row, place))}
                    />
                  );
                })}
              </div>
            ))}
          </div>
        </div>
      </div>
      {!isBlock && worked?.formula != null && activePlace !== undefined && cell(active.row, active.column) === null && (
        <WhyMissing dataset={dataset} column={worked} row={activePlace} />
      )}
      {isBlock && (
        <RangeBar
          shown={shown}
          range={range}
          numbers={numbers}
          whole={columns.length > 1 && sizeOf(range).across === columns.length}
          plain={plain}
          block={block}
        />
      )}
    </div>
  );
}

/** Takes the number of a row and goes there. */
function GoToRow({ rows, onGo }: { rows: number; onGo: (row: number) => void }) {
  return (
    <input
      aria-label="Go to row"
      title="Go to row"
      placeholder="go to"
      inputMode="numeric"
      className="h-[22px] w-full rounded border border-hairline bg-sheet px-1 text-right text-[13px]"
      onKeyDown={(event) => {
        const wanted = Number(event.currentTarget.value.replace(/[,\s]/g, ""));
        if (event.key !== "Enter" || !Number.isInteger(wanted) || wanted < 1) return;
        onGo(Math.min(wanted, rows) - 1);
        event.currentTarget.value = "";
      }}
    />
  );
}

/** The numbers of a block; null where some of it is out of sight and not read. */
function numbersIn(
  columns: Column[],
  range: Range,
  cell: (row: number, column: number) => string | null | undefined,
  isHidden: (column: number) => boolean,
): number[] | null {
  const numbers: number[] = [];
  for (let row = range.top; row <= range.bottom; row++)
    for (let place = range.left; place <= range.right; place++) {
      const text = cell(row, place);
      if (text === undefined) return null;
      if (text !== null && !isHidden(place) && isNumeric(columns[place]?.kind ?? "text")) numbers.push(Number(text));
    }
  return numbers;
}
