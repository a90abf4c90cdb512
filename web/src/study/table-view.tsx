import { Popover } from "radix-ui";
import { useState } from "react";
import type { Schema } from "../api/client";
import { grouped, tableNumber } from "../lib/format";
import { Button } from "../parts/button";
import { Explained } from "../parts/explained";
import type { Stretch } from "./figure";

type Table = Schema["AnswerTable"];
type Props = {
  table: Table;
  formulas: Schema["Formula"][];
  /** Every row at once, for paper. */
  whole?: boolean;
  /** Opens the rows behind a number; absent where nothing can be opened. */
  onOpenRows?: (stretch: Stretch | null) => void;
};

/** Rows of a table in sight at first; a column of labels may have thousands. */
const PAGE = 100;

/** A table of the core. A number that is clicked tells its formula, its source and its rows. */
export function TableView({ table, formulas, whole, onOpenRows }: Props) {
  const all = table.columns[0]?.cells.length ?? 0;
  const [most, setMost] = useState(whole ? Number.POSITIVE_INFINITY : PAGE);
  const rows = Math.min(all, most);
  return (
    <table className="self-start text-right">
      <caption className="pb-1 text-left text-[13px] font-semibold">{table.title}</caption>
      <thead className="text-[13px] text-ink-soft">
        <tr>
          {table.columns.map((column, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: heads may be alike, and their order is theirs
            <th key={place} className="pb-1 pr-6 font-medium first:text-left">
              <Explained head>{column.label}</Explained>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {Array.from({ length: rows }, (_, row) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: rows have no name of their own
          <tr key={row} className="border-t border-hairline">
            {table.columns.map((column, place) => (
              <Cell
                // biome-ignore lint/suspicious/noArrayIndexKey: the cells of a row have fixed places
                key={place}
                head={place === 0}
                table={table}
                column={column}
                row={row}
                formulas={formulas}
                onOpenRows={onOpenRows}
              />
            ))}
          </tr>
        ))}
      </tbody>
      {rows < all && (
        <tfoot>
          <tr className="border-t border-hairline">
            <td colSpan={table.columns.length} className="py-1 text-left text-[13px] text-ink-soft">
              {grouped(rows)} of {grouped(all)} rows{" "}
              <Button look="quiet" onClick={() => setMost(most + 5 * PAGE)}>
                Show {grouped(Math.min(5 * PAGE, all - rows))} more
              </Button>
            </td>
          </tr>
        </tfoot>
      )}
    </table>
  );
}

type CellProps = Props & { column: Schema["AnswerColumn"]; row: number; head: boolean };

function Cell({ table, column, row, head, formulas, onOpenRows }: CellProps) {
  const value = column.cells[row];
  const line = table.lines?.[row];
  if (typeof value === "string" || value == null) {
    const text = value ?? (typeof column.cells.find((cell) => cell != null) === "string" ? "" : "–");
    return head ? (
      <th scope="row" className="whitespace-nowrap py-1 pr-6 text-left font-medium">
        {table.lines?.length ? <Explained head>{text}</Explained> : text}
      </th>
    ) : (
      <td className="pr-6">{text}</td>
    );
  }
  const id = column.formula ?? line?.formula;
  const formula = formulas.find((formula) => formula.id === id);
  const text = tableNumber(value, column.format ?? line?.format);
  const [first, last] = line?.points ?? [];
  return (
    <td className="whitespace-nowrap py-1 pr-6">
      {formula ? (
        <Popover.Root>
          <Popover.Trigger className="cursor-help rounded px-0.5 hover:bg-tint data-[state=open]:bg-tint">
            {text}
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              collisionPadding={12}
              aria-label={formula.name}
              className="z-40 w-80 rounded-xl border border-hairline bg-sheet p-3 text-left shadow-xl"
            >
              <p className="font-semibold">{formula.name}</p>
              <p className="mt-1">{formula.formula}</p>
              <p className="mt-1 text-[13px] text-ink-soft">{formula.source}</p>
              <p className="mt-1 text-[13px] text-ink-soft">With every digit: {String(value).replace("-", "−")}</p>
              {onOpenRows && (
                <Button
                  look="quiet"
                  className="mt-1 text-[13px]"
                  onClick={() => onOpenRows(first === undefined || last === undefined ? null : { first, last })}
                >
                  {first === undefined ? "Open the rows" : "Open its rows"}
                </Button>
              )}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      ) : (
        text
      )}
    </td>
  );
}
