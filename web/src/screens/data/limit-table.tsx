import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { problemOf, type Schema, sendFile } from "../../api/client";
import { type Column, type Dataset, labelsQuery } from "../../api/queries";
import { counted, typedNumber } from "../../lib/format";
import { Button } from "../../parts/button";
import { CloseDesk, Desk } from "../../parts/desk";
import { Field } from "./make-table-fields";

export type LimitTable = Schema["LimitTable"];
/** A line as it is typed. */
type Line = { key: number; of: string; from: string; lsl: string; target: string; usl: string };
type Draft = { by: number | null; since: number | null; lines: Line[] };

const NUMBERS = ["lsl", "target", "usl"] as const;
const WORDS = { lsl: "LSL", target: "target", usl: "USL" };

let keys = 0;
const line = (said: Partial<Line> = {}): Line => ({
  key: keys++,
  of: "",
  from: "",
  lsl: "",
  target: "",
  usl: "",
  ...said,
});

const textOf = (value: number | null | undefined) => (value == null ? "" : String(value));

function draftOf(table: LimitTable | null | undefined): Draft {
  const rows = table?.rows ?? [];
  const lines = rows.map(({ of, from, lsl, target, usl }) =>
    line({ of: of ?? "", from: from ?? "", lsl: textOf(lsl), target: textOf(target), usl: textOf(usl) }),
  );
  return { by: table?.by ?? null, since: table?.since ?? null, lines };
}

function tableOf({ by, since, lines }: Draft): LimitTable | null {
  const said = lines.filter(({ key: _, ...texts }) => Object.values(texts).some((text) => text.trim() !== ""));
  const number = (text: string) => typedNumber(text) ?? null;
  const rows = said.map(({ of, from, lsl, target, usl }) => ({
    of: by === null ? null : of.trim() || null,
    from: since === null ? null : from.trim() || null,
    lsl: number(lsl),
    target: number(target),
    usl: number(usl),
  }));
  return rows.length === 0 ? null : { by, since, rows };
}

type Props = {
  dataset: Dataset;
  column: Column;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onSave: (table: LimitTable | null) => Promise<unknown>;
};

/** The limits of a column that differ between rows: by product, or from a day on. */
export function LimitTableDesk({ dataset, column, open, onOpenChange, onSave }: Props) {
  // What is typed outlasts closing.
  const [draft, setDraft] = useState<Draft | null>(null);
  const [thrown, setThrown] = useState<unknown>(null);
  const [missed, setMissed] = useState(false);
  const { by, since, lines } = draft ?? draftOf(column.limit_table);
  const change = (part: Partial<Draft>) => {
    setDraft({ by, since, lines, ...part });
    setThrown(null);
  };
  const put = (key: number, part: Partial<Line>) =>
    change({ lines: lines.map((line) => (line.key === key ? { ...line, ...part } : line)) });
  const others = dataset.columns.filter((other) => other.id !== column.id);
  const chooser = others.find((other) => other.id === by);
  const labels = useQuery({ ...labelsQuery(dataset, chooser), enabled: chooser !== undefined && open }).data ?? [];
  const untold = labels.filter((label) => lines.every((line) => line.of.trim() !== label));
  const wrong = lines.some((line) => NUMBERS.some((field) => typedNumber(line[field]) === undefined));
  const keep = () =>
    onSave(tableOf({ by, since, lines })).then(() => {
      setDraft(null);
      setThrown(null);
      onOpenChange(false);
    }, setThrown);
  const read = (file: File) =>
    sendFile<Schema["ReadSpecifications"]>(`/api/datasets/${dataset.id}/specifications`, file.name, file).then(
      ({ columns }) => {
        const table = columns.find((one) => one.column_id === column.id)?.limit_table;
        if (table) change(draftOf(table));
        setMissed(!table);
      },
      setThrown,
    );
  const problem = thrown ? problemOf(thrown) : null;
  const idOf = (value: string) => (value === "" ? null : Number(value));
  return (
    <Desk
      title={`Limits of ${column.name} by product or date`}
      width="w-[880px]"
      open={open}
      onOpenChange={onOpenChange}
    >
      <div className="flex flex-wrap items-end gap-4">
        <Field label="limits differ by">
          <select
            value={by ?? ""}
            onChange={(event) => change({ by: idOf(event.target.value) })}
            className="h-[31px] min-w-52 rounded-md border border-hairline bg-sheet px-1.5"
          >
            <option value="">nothing, all alike</option>
            {others.map((other) => (
              <option key={other.id} value={other.id}>
                {other.name}
              </option>
            ))}
          </select>
        </Field>
        <Field label="and hold from a day on, told by">
          <select
            value={since ?? ""}
            onChange={(event) => change({ since: idOf(event.target.value) })}
            className="h-[31px] min-w-52 rounded-md border border-hairline bg-sheet px-1.5"
          >
            <option value="">no date, always the same</option>
            {others
              .filter((other) => other.kind === "date-time")
              .map((other) => (
                <option key={other.id} value={other.id}>
                  {other.name}
                </option>
              ))}
          </select>
        </Field>
        {chooser && untold.length > 0 && untold.length <= 200 && (
          <Button look="quiet" onClick={() => change({ lines: [...lines, ...untold.map((of) => line({ of }))] })}>
            A line for each of the {counted(untold.length, "other label", "other labels")}
          </Button>
        )}
      </div>
      <section aria-label="Limits" className="min-h-24 overflow-auto rounded-xl border border-hairline bg-sheet">
        <table className="w-full text-left">
          <thead>
            <tr className="sticky top-0 bg-paper text-[13px] text-ink-soft">
              {chooser && <th className="px-2.5 py-1.5 font-medium">{chooser.name}</th>}
              {since !== null && <th className="px-2.5 py-1.5 font-medium">from</th>}
              {NUMBERS.map((field) => (
                <th key={field} className="px-2.5 py-1.5 font-medium">
                  {WORDS[field]}
                  {column.unit ? `, ${column.unit}` : ""}
                </th>
              ))}
              <th className="w-10">
                <span className="sr-only">away with it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {lines.map((one, place) => (
              <tr key={one.key} className="border-t border-hairline/60">
                {chooser && (
                  <td className="px-1.5 py-1">
                    <input
                      aria-label={`${chooser.name}, line ${place + 1}`}
                      value={one.of}
                      list="limit-table-labels"
                      placeholder="every other"
                      onChange={(event) => put(one.key, { of: event.target.value })}
                      className="h-[30px] w-full min-w-32 rounded-md border border-hairline bg-sheet px-2"
                    />
                  </td>
                )}
                {since !== null && (
                  <td className="px-1.5 py-1">
                    <input
                      aria-label={`from, line ${place + 1}`}
                      value={one.from}
                      placeholder="since ever"
                      onChange={(event) => put(one.key, { from: event.target.value })}
                      className="h-[30px] w-full min-w-32 rounded-md border border-hairline bg-sheet px-2"
                    />
                  </td>
                )}
                {NUMBERS.map((field) => (
                  <td key={field} className="px-1.5 py-1">
                    <input
                      aria-label={`${WORDS[field]}, line ${place + 1}`}
                      aria-invalid={typedNumber(one[field]) === undefined}
                      inputMode="decimal"
                      value={one[field]}
                      onChange={(event) => put(one.key, { [field]: event.target.value })}
                      className="h-[30px] w-full min-w-20 rounded-md border border-hairline bg-sheet px-2 aria-invalid:border-clay"
                    />
                  </td>
                ))}
                <td className="px-1 text-center">
                  <button
                    type="button"
                    aria-label={`Take line ${place + 1} away`}
                    onClick={() => change({ lines: lines.filter((other) => other.key !== one.key) })}
                    className="px-1.5 text-ink-soft hover:text-clay"
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {lines.length === 0 && (
          <p className="px-3 py-4 text-ink-soft">
            Every row has the limits of the column. A line here gives other ones to a product, or from a day on.
          </p>
        )}
        <datalist id="limit-table-labels">
          {labels.slice(0, 200).map((label) => (
            <option key={label} value={label} />
          ))}
        </datalist>
      </section>
      <p className="text-[13px] text-ink-soft">
        A row that no line is about has the limits of the column. A question about rows of one product and time is held
        against the limits that held for these.
      </p>
      {missed && (
        <p role="status">
          <b className="text-ochre">Not in the list:</b> limits of {column.name} by product or day. Each line names the
          column, its product or the day, and the limits.
        </p>
      )}
      {problem && (
        <p role="alert" className="text-clay">
          {problem.detail}. <span className="text-ink-soft">{problem.advice}</span>
        </p>
      )}
      <div className="flex flex-wrap items-center gap-2.5">
        <Button look="primary" disabled={draft === null || wrong} onClick={keep}>
          Keep the limits
        </Button>
        <Button onClick={() => change({ lines: [...lines, line()] })}>Add a line</Button>
        <Button look="quiet" disabled={draft === null} onClick={() => setDraft(null)}>
          As they were
        </Button>
        <span className="flex-1" />
        <label className="cursor-pointer font-semibold text-moss hover:underline focus-within:outline-2">
          Read them from a list
          <input
            type="file"
            accept=".csv,.tsv,.txt,.xlsx,.ods"
            className="sr-only"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) read(file);
              event.target.value = "";
            }}
          />
        </label>
        <CloseDesk />
      </div>
    </Desk>
  );
}
