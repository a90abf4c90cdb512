import { Minus, Plus } from "lucide-react";
import type { ClipboardEvent } from "react";
import type { Spec } from "../../api/queries";
import { blockOf } from "../../lib/block";
import { typedNumber } from "../../lib/format";
import { type Options, useTyping } from "./use-typing";
import { type CountsSlot, countsOf } from "./words";

type Props = {
  slot: CountsSlot;
  spec: Spec;
  onTry: (options: Options | null) => void;
  onSave: (options: Options) => void;
};

/** A table as it is typed. */
type Typed = { rows: string[]; columns: string[]; cells: string[][] };

const EMPTY: Typed = {
  rows: ["", ""],
  columns: ["", ""],
  cells: [
    ["", ""],
    ["", ""],
  ],
};

function typedOf(slot: CountsSlot, spec: Spec): Typed {
  const table = countsOf(slot, spec);
  return table
    ? { rows: table.rows, columns: table.columns, cells: table.counts.map((row) => row.map((count) => String(count))) }
    : EMPTY;
}

const countOf = (text: string): number | undefined => {
  const count = typedNumber(text);
  return typeof count === "number" && count >= 0 && Number.isInteger(count) ? count : undefined;
};

function optionsOf(slot: CountsSlot, { rows, columns, cells }: Typed): Options | null {
  const counts = cells.map((row) => row.map(countOf));
  return counts.flat().includes(undefined) ? null : { [slot.name]: { rows, columns, counts } };
}

/** A block put in at a place, the table grown to hold it. A block with heads around its numbers is the whole table. */
export function pasted(typed: Typed, block: string[][], row: number, column: number): Typed {
  const isCount = (text: string | undefined) => countOf(text ?? "") !== undefined;
  const [head = [], ...below] = block;
  const body = below.map((line) => line.slice(1));
  const headed =
    below.length > 0 && head.slice(1).some((text) => !isCount(text)) && body.every((line) => line.every(isCount));
  if (headed) {
    return { rows: below.map(([name = ""]) => name), columns: head.slice(1), cells: body };
  }
  const wide = Math.max(typed.columns.length, column + Math.max(...block.map((line) => line.length)));
  const high = Math.max(typed.rows.length, row + block.length);
  const grown = (names: string[], to: number) => Array.from({ length: to }, (_, place) => names[place] ?? "");
  return {
    rows: grown(typed.rows, high),
    columns: grown(typed.columns, wide),
    cells: Array.from({ length: high }, (_, down) =>
      Array.from(
        { length: wide },
        (_, right) => block[down - row]?.[right - column] ?? typed.cells[down]?.[right] ?? "",
      ),
    ),
  };
}

const FIELD = "h-8 rounded-md border border-hairline bg-paper px-2 aria-invalid:border-clay";

/** A table of counts typed or pasted over the figure, its rows and columns named in place. */
export function CountsForm({ slot, spec, onTry, onSave }: Props) {
  const { typed, change, flush } = useTyping({
    stored: typedOf(slot, spec),
    optionsOf: (typed: Typed) => optionsOf(slot, typed),
    storedWith: (options) => typedOf(slot, { ...spec, options: { ...spec.options, ...options } }),
    onTry,
    onSave,
  });
  const { rows, columns, cells } = typed;
  const paste = (event: ClipboardEvent, row: number, column: number) => {
    const block = blockOf(event.clipboardData.getData("text/plain"));
    if (block.length === 1 && block[0]?.length === 1) return;
    event.preventDefault();
    change(pasted(typed, block, row, column));
  };
  const renamed = (names: string[], place: number, name: string) => names.map((old, at) => (at === place ? name : old));
  const resize = (high: number, wide: number) =>
    change({
      rows: Array.from({ length: high }, (_, row) => rows[row] ?? ""),
      columns: Array.from({ length: wide }, (_, column) => columns[column] ?? ""),
      cells: Array.from({ length: high }, (_, row) =>
        Array.from({ length: wide }, (_, column) => cells[row]?.[column] ?? ""),
      ),
    });
  return (
    <fieldset aria-label={slot.label} className="max-h-[46%] overflow-auto px-6 pt-3" onBlur={flush}>
      <div className="flex items-start gap-3">
        <table className="border-separate border-spacing-1">
          <thead>
            <tr>
              <td className="text-[13px] text-ink-soft">
                {/* What a table is pasted into. */}
                <input
                  aria-label="Paste a table here"
                  placeholder="paste a table here"
                  value=""
                  onChange={() => undefined}
                  onPaste={(event) => paste(event, 0, 0)}
                  className={`${FIELD} w-36 text-[13px]`}
                />
              </td>
              {columns.map((name, column) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: columns are told apart by their place
                <th key={column}>
                  <input
                    aria-label={`Name of column ${column + 1}`}
                    placeholder={`column ${column + 1}`}
                    value={name}
                    onChange={({ currentTarget }) =>
                      change({ ...typed, columns: renamed(columns, column, currentTarget.value) })
                    }
                    className={`${FIELD} w-28`}
                  />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {cells.map((line, row) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place
              <tr key={row}>
                <th>
                  <input
                    aria-label={`Name of row ${row + 1}`}
                    placeholder={`row ${row + 1}`}
                    value={rows[row]}
                    onChange={({ currentTarget }) =>
                      change({ ...typed, rows: renamed(rows, row, currentTarget.value) })
                    }
                    className={`${FIELD} w-36`}
                  />
                </th>
                {line.map((text, column) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: cells are told apart by their place
                  <td key={column}>
                    <input
                      aria-label={`Count of ${rows[row] || `row ${row + 1}`}, ${columns[column] || `column ${column + 1}`}`}
                      inputMode="numeric"
                      value={text}
                      aria-invalid={text.trim() !== "" && countOf(text) === undefined}
                      onPaste={(event) => paste(event, row, column)}
                      onChange={({ currentTarget }) =>
                        change({
                          ...typed,
                          cells: cells.map((old, at) => (at === row ? renamed(old, column, currentTarget.value) : old)),
                        })
                      }
                      className={`${FIELD} w-28 text-right`}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        <div className="flex flex-col gap-1 pt-1 text-[13px]">
          <Sizer what="row" count={rows.length} onSize={(count) => resize(count, columns.length)} />
          <Sizer what="column" count={columns.length} onSize={(count) => resize(rows.length, count)} />
        </div>
      </div>
    </fieldset>
  );
}

/** One more or one fewer. */
function Sizer({ what, count, onSize }: { what: string; count: number; onSize: (count: number) => void }) {
  const button = "rounded-md p-1 text-moss hover:bg-tint disabled:opacity-40";
  return (
    <div className="flex items-center gap-1">
      <button
        type="button"
        aria-label={`One ${what} fewer`}
        disabled={count <= 1}
        onClick={() => onSize(count - 1)}
        className={button}
      >
        <Minus size={14} aria-hidden />
      </button>
      <button type="button" aria-label={`One ${what} more`} onClick={() => onSize(count + 1)} className={button}>
        <Plus size={14} aria-hidden />
      </button>
      <span className="text-ink-soft">
        {count} {what}
        {count === 1 ? "" : "s"}
      </span>
    </div>
  );
}
