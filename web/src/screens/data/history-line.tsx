import type { Schema } from "../../api/client";
import { moment } from "../../lib/format";

/** One change in words: what it was, what it became, when. */
export function HistoryLine({ row }: { row: Schema["HistoryRow"] }) {
  return (
    <p className={row.undone && row.what !== "undo" && row.what !== "dataset-created" ? "line-through opacity-70" : ""}>
      {words(row)} <span className="text-ink-soft">{moment(row.at)}</span>
    </p>
  );
}

const PROPERTIES = {
  name: "name",
  kind: "kind",
  unit: "unit",
  decimals: "decimals",
  lsl: "lower limit",
  target: "target",
  usl: "upper limit",
};

function words({ what, target, before, after }: Schema["HistoryRow"]): string {
  const about: { column?: string; row?: number; what?: string } = JSON.parse(target);
  const was = parsed(before);
  const is = parsed(after);
  const text = (value: unknown) => (value === null || value === undefined || value === "" ? "none" : String(value));
  switch (what) {
    case "cell":
      return `Row ${(about.row ?? 0) + 1}, ${about.column}: ${was === "" ? "missing" : text(was)} → ${is === "" ? "missing" : text(is)}`;
    case "column": {
      const old = (was ?? {}) as Record<string, unknown>;
      const now = (is ?? {}) as Record<string, unknown>;
      const changed = Object.entries(PROPERTIES).filter(([key]) => (old[key] ?? null) !== (now[key] ?? null));
      return changed.map(([key, label]) => `${label} of ${now.name}: ${text(old[key])} → ${text(now[key])}`).join("; ");
    }
    case "dataset-name":
      return `Name: ${text(was)} → ${text(is)}`;
    case "dataset-created":
      return "Brought in";
    case "undo":
      return `Undone: ${about.what === "cell" ? "a value" : about.what === "column" ? "a property" : "a name"}`;
    default:
      return what;
  }
}

function parsed(json: string | null | undefined): unknown {
  return json == null ? null : JSON.parse(json);
}
