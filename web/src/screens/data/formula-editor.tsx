import { useQuery } from "@tanstack/react-query";
import { useEffect, useId, useState } from "react";
import { api, type Schema, unwrapResponse } from "../../api/client";
import { type Dataset, tableFunctionsQuery } from "../../api/queries";
import { counted, grouped, isNumeric, kindWords } from "../../lib/format";
import { Textbook } from "../../parts/textbook";

type Read = Schema["ReadTableFormula"];

type Props = {
  dataset: Dataset;
  /** The column that it is the formula of, where it is one already. */
  column?: number;
  text: string;
  onText: (text: string) => void;
  /** Whether it can be read as it stands; false while that is found out. */
  onRead?: (readable: boolean) => void;
  /** It is meant, and can be kept. */
  onKeep: () => void;
};

/** A pause in typing this long has the formula checked. */
const PAUSE = 150;

/** A formula over the columns of a table, checked while it is typed, with what it gives in the first rows. */
export function FormulaEditor({ dataset, column, text, onText, onRead, onKeep }: Props) {
  const id = useId();
  const [read, setRead] = useState<Read | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: checked when the text or the table changes
  useEffect(() => {
    let stale = false;
    onRead?.(false);
    const check = async () => {
      const found =
        text.trim() === ""
          ? null
          : await unwrapResponse(
              api.POST("/api/datasets/{id}/formula", {
                params: { path: { id: dataset.id } },
                body: { formula: text, column_id: column ?? null },
              }),
            ).catch(() => null);
      if (stale) return;
      setRead(found);
      onRead?.(found !== null && !found.mistake);
    };
    const timer = setTimeout(check, PAUSE);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [text, dataset.revision]);
  return (
    <div className="flex flex-col gap-1.5">
      <label htmlFor={id} className="text-[13px] text-ink-soft">
        formula
      </label>
      <textarea
        id={id}
        rows={2}
        spellCheck={false}
        value={text}
        aria-invalid={read?.mistake !== undefined}
        aria-describedby={`${id}-said`}
        onChange={(event) => onText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== "Enter" || event.shiftKey) return;
          event.preventDefault();
          onKeep();
        }}
        className="rounded-md border border-hairline bg-sheet px-2 py-1 font-mono text-[13px] aria-invalid:border-clay"
      />
      <div id={`${id}-said`} role="status" className="text-[13px]">
        {read && <Said read={read} text={text} rows={dataset.row_count} />}
      </div>
      <Functions names={dataset.columns.map(({ name }) => name)} />
    </div>
  );
}

function Said({ read, text, rows }: { read: Read; text: string; rows: number }) {
  if (read.mistake) {
    const { from, to, words } = read.mistake;
    const letters = Array.from(text);
    const cut = letters.slice(from, Math.max(to, from)).join("");
    const where = cut && cut.length < letters.length && !words.includes(cut) ? ` (at “${cut}”)` : "";
    return (
      <span className="text-clay">
        {words}
        {where}.
      </span>
    );
  }
  return (
    <>
      {read.notation && <Textbook parts={read.notation.parts} />}
      <span className="mt-1 block">
        <span className="text-ink-soft">{kindWords[read.kind ?? "number"]}: </span>
        {read.values.map((value) => shortly(value, read.kind)).join(", ")}
        {rows > read.values.length && " …"}
      </span>
      {read.missing > 0 && (
        <span className="block text-ink-soft">
          {read.missing === rows ? "No row gets a value" : `${counted(read.missing, "row gets", "rows get")} no value`}
          {read.why && `; ${read.why}`}.
        </span>
      )}
    </>
  );
}

/** A value in the few digits that tell whether the formula does what is meant. */
function shortly(value: string | null, kind: Read["kind"]): string {
  if (value === null) return "missing";
  return isNumeric(kind ?? "text") ? String(Number(Number(value).toPrecision(6))).replace("-", "−") : value;
}

/** What can stand in a formula. */
function Functions({ names }: { names: string[] }) {
  const functions = useQuery(tableFunctionsQuery).data ?? [];
  return (
    <details className="text-[13px]">
      <summary className="cursor-pointer text-ink-soft">
        {grouped(functions.length)} functions beside sqrt, ln, round, min, max, if …
      </summary>
      <p className="my-1">
        Columns: {names.map((name) => (/^[\p{L}_][\p{L}\p{N}_]*$/u.test(name) ? name : `\`${name}\``)).join(", ")}.
        Words stand between "quotation marks".
      </p>
      <dl className="max-h-52 overflow-auto">
        {functions.map(({ name, written, help }) => (
          <div key={name} className="mb-1">
            <dt className="font-mono text-[12.5px]">{written}</dt>
            <dd className="text-ink-soft">{help}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
