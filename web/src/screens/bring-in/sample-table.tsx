import type { Schema } from "../../api/client";
import { isNumeric, kindWords, shortTime } from "../../lib/format";
import { fixFor, withColumn } from "./fixes";
import type { Preview, ReadOptions } from "./preview";

type Props = { preview: Preview; readOptions: ReadOptions; onChange: (part: Partial<ReadOptions>) => void };
type ReadColumn = Schema["ReadColumn"];

/** The first rows as they will stand in the table; names and kinds are changed in place. */
export function SampleTable({ preview, readOptions, onChange }: Props) {
  const rows = Math.max(0, ...preview.columns.map((column) => column.sample.length));
  const correct = (column: ReadColumn, part: Partial<Schema["ColumnReadOptions"]>) =>
    onChange(withColumn(readOptions, column.index, part));
  return (
    <div
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by key
      tabIndex={0}
      role="region"
      aria-label="First rows"
      className="mt-3.5 overflow-x-auto rounded-xl border border-hairline bg-sheet"
    >
      <table className="w-full text-left">
        <thead>
          <tr className="align-top">
            <th className="w-11" aria-label="row" />
            {preview.columns.map((column) => (
              <th
                key={column.index}
                className={`border-l border-hairline p-1.5 font-normal ${column.left_out ? "opacity-50" : ""}`}
              >
                <Head column={column} order={preview.read_as.date_order} onCorrect={(part) => correct(column, part)} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {Array.from({ length: rows }, (_, row) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows are known by their number
            <tr key={row} className="border-t border-hairline/60">
              <td className="pr-2.5 text-right text-ink-soft">{row + 1}</td>
              {preview.columns.map((column) => (
                <Cell key={column.index} column={column} row={row} preview={preview} readOptions={readOptions} />
              ))}
            </tr>
          ))}
          {further(preview, rows).map((problem) => (
            <tr key={`${problem.row} ${problem.column}`} className="border-t border-hairline/60">
              <td className="pr-2.5 text-right text-ink-soft">{problem.row}</td>
              {preview.columns.map((column) => (
                <td
                  key={column.index}
                  className={`border-l border-hairline px-2.5 py-[3px] ${
                    column.index === problem.column ? "bg-clay/15 text-right font-semibold text-clay" : "text-ink-soft"
                  }`}
                >
                  {column.index === problem.column ? problem.text : "…"}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Problems in rows below the first ones, as many as keep the table short. */
const further = (preview: Preview, rows: number) =>
  preview.problems.filter((problem) => problem.row > rows).slice(0, 4);

type HeadProps = {
  column: ReadColumn;
  order: Schema["DateOrder"];
  onCorrect: (part: Partial<Schema["ColumnReadOptions"]>) => void;
};

function Head({ column, order, onCorrect }: HeadProps) {
  const commit = (name: string) => name.trim() !== column.name && onCorrect({ name });
  return (
    <>
      <input
        key={column.name}
        aria-label={`Name of column ${column.index + 1}`}
        defaultValue={column.name}
        maxLength={120}
        onBlur={(event) => commit(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="w-full min-w-24 rounded px-1 font-medium hover:bg-tint"
      />
      <select
        aria-label={`Kind of ${column.name}`}
        value={column.left_out ? "left-out" : column.kind}
        onChange={(event) =>
          event.target.value === "left-out"
            ? onCorrect({ leave_out: true })
            : onCorrect({ leave_out: false, kind: event.target.value as ReadColumn["kind"] })
        }
        className="rounded bg-sheet px-0.5 text-[12.5px] font-semibold text-moss hover:bg-tint"
      >
        {Object.entries(kindWords).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {kind === "date-time" && column.kind === "date-time" ? `date, ${order.replace("-", " ")}` : words}
          </option>
        ))}
        <option value="left-out">left out</option>
      </select>
      {column.unit && <span className="pl-1 text-[12.5px] text-ink-soft">{column.unit}</span>}
    </>
  );
}

function Cell({
  column,
  row,
  preview,
  readOptions,
}: {
  column: ReadColumn;
  row: number;
  preview: Preview;
  readOptions: ReadOptions;
}) {
  const problem = preview.problems.find((problem) => problem.row === row + 1 && problem.column === column.index);
  const fixed = fixFor(readOptions, row + 1, column.index);
  const text = column.sample[row];
  const shown = text == null ? "" : column.kind === "date-time" ? shortTime(text, true) : text;
  const look = problem ? "bg-clay/15 font-semibold text-clay" : fixed ? "bg-wash" : "";
  return (
    <td
      className={`max-w-64 truncate border-l border-hairline px-2.5 py-[3px] ${isNumeric(column.kind) ? "text-right" : ""} ${look} ${column.left_out ? "opacity-40" : ""}`}
    >
      {problem ? problem.text : shown}
    </td>
  );
}
