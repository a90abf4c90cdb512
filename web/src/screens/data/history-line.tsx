import { useQuery } from "@tanstack/react-query";
import type { Schema } from "../../api/client";
import { gaugesQuery } from "../../api/queries";
import { counted, grouped, moment } from "../../lib/format";

/** Whether a change holds no longer. */
export const wasUndone = ({ stage }: Schema["HistoryRow"]): boolean => stage === "undone" || stage === "dropped";

/** One change in words: what it was, what it became, when. */
export function HistoryLine({ row }: { row: Schema["HistoryRow"] }) {
  const gauges = useQuery(gaugesQuery).data ?? [];
  const gauge = (id: unknown) => {
    if (id == null) return "none";
    return gauges.find((known) => known.id === id)?.name ?? "a gauge deleted since";
  };
  return (
    <p className={wasUndone(row) ? "line-through opacity-70" : ""}>
      {words(row, gauge)} <span className="text-ink-soft">{moment(row.at)}</span>
    </p>
  );
}

const PROPERTIES = {
  name: "name",
  kind: "kind",
  unit: "unit",
  decimals: "decimals",
  gauge_id: "gauge",
  lsl: "LSL",
  target: "target",
  usl: "USL",
  formula: "formula",
  limit_table: "limits by product or date",
  rules: "what it can be",
};

type About = {
  column?: string;
  count?: number;
  by?: string[];
  what?: string;
  how?: Schema["EditKind"];
  down?: number;
  across?: number;
};

const DEEDS: Record<Schema["EditKind"], string> = {
  typed: "Changed",
  pasted: "Pasted",
  filled: "Filled",
  cleared: "Cleared",
  replaced: "Replaced a text in",
};

/** A block of cells, over the rows in which it stands by now. */
function block({ count = 0, how = "typed", down = 1, across = 1, column }: About, place: number | null | undefined) {
  const cells =
    down * across === count ? `${grouped(down)} × ${grouped(across)} cells` : counted(count, "cell", "cells");
  const rows =
    down === 1 ? `row ${(place ?? 0) + 1}` : `rows ${grouped((place ?? 0) + 1)} to ${grouped((place ?? 0) + down)}`;
  const over = place == null || down * across !== count ? "" : ` over ${rows}`;
  return `${DEEDS[how]} ${cells}${over}${across === 1 ? `, ${column}` : ""}`;
}

function words({ what, target, before, after, place }: Schema["HistoryRow"], gauge: (id: unknown) => string): string {
  const about: About = JSON.parse(target);
  // Where the row stands by now, which is not where it stood when it was changed.
  const row = place == null ? "A row deleted since" : `Row ${place + 1}`;
  const was = parsed(before);
  const is = parsed(after);
  const text = (value: unknown) =>
    value === null || value === undefined || value === ""
      ? "none"
      : typeof value !== "object"
        ? String(value)
        : "rows" in value && Array.isArray(value.rows)
          ? counted(value.rows.length, "line", "lines")
          : Object.values(value).flat().join(", ");
  switch (what) {
    case "cell":
      return `${row}, ${about.column}: ${was === "" ? "missing" : text(was)} → ${is === "" ? "missing" : text(is)}`;
    case "cells":
      return block(about, place);
    case "column-added":
      return `Column ${about.column} added`;
    case "column-deleted":
      return `Column ${about.column} deleted`;
    case "columns-arranged":
      return "Columns moved, hidden or shown";
    case "rows-added":
      return `${counted(about.count ?? 0, "row", "rows")} added`;
    case "rows-deleted":
      return `${counted(about.count ?? 0, "row", "rows")} deleted`;
    case "rows-ordered":
      return `Rows put in the order of ${about.by?.join(", ")}`;
    case "column": {
      const old = (was ?? {}) as Record<string, unknown>;
      const now = (is ?? {}) as Record<string, unknown>;
      const told = (value: unknown) => JSON.stringify(value ?? null);
      const changed = Object.entries(PROPERTIES).filter(([key]) => told(old[key]) !== told(now[key]));
      const shown = (key: string, value: unknown) => (key === "gauge_id" ? gauge(value) : text(value));
      return changed
        .map(([key, label]) => `${label} of ${now.name}: ${shown(key, old[key])} → ${shown(key, now[key])}`)
        .join("; ");
    }
    case "columns":
      return `Properties of ${counted(about.count ?? 0, "column", "columns")} changed`;
    case "dataset-name":
      return `Name: ${text(was)} → ${text(is)}`;
    case "followed":
      return `Made anew: ${counted(about.count ?? 0, "row", "rows")}`;
    case "unlinked":
      return "Stands by itself since";
    case "dataset-created":
      return "Brought in";
    case "undo":
      return `Undone: ${turned(about.what)}`;
    case "redo":
      return `Redone: ${turned(about.what)}`;
    default:
      return what;
  }
}

const TURNED: Record<string, string> = {
  cell: "a value",
  cells: "a block of cells",
  column: "a property",
  columns: "properties of columns",
  "column-added": "an added column",
  "column-deleted": "a deleted column",
  "columns-arranged": "the order of columns",
  "rows-added": "added rows",
  "rows-deleted": "deleted rows",
  "rows-ordered": "the order of rows",
  "dataset-name": "a name",
};

const turned = (what: string | undefined): string => TURNED[what ?? ""] ?? "a change";

function parsed(json: string | null | undefined): unknown {
  return json == null ? null : JSON.parse(json);
}
