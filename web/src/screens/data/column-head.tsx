import type { Schema } from "../../api/client";
import type { Column } from "../../api/queries";
import { counted, fixed, kindWords, shortTime, timeText } from "../../lib/format";
import { HistogramSketch } from "../../marks/histogram-sketch";

export const HEAD_HEIGHT = 108;

type Props = {
  column: Column;
  summary: Schema["ColumnSummary"] | undefined;
  width: number;
  chosen: boolean;
  /** How far from the left it stays while others scroll; undefined where it scrolls. */
  held?: number | undefined;
  onChoose: () => void;
};

/** Limits that differ between rows are no fences of all of them. */
const NO_LIMITS = {};

/** Name, kind and what stands in the column. */
export function ColumnHead({ column, summary, width, chosen, held, onChoose }: Props) {
  return (
    <div
      role="columnheader"
      className={`shrink-0 border-l border-hairline ${held === undefined ? "" : "sticky z-10 bg-paper shadow-[3px_0_4px_-2px_rgb(0_0_0/0.22)]"}`}
      style={{ width, left: held }}
    >
      <button
        type="button"
        tabIndex={-1}
        aria-pressed={chosen}
        onClick={onChoose}
        className="block h-full w-full border-t-[3px] border-transparent px-2.5 pt-1 text-left align-top hover:bg-tint aria-pressed:border-moss aria-pressed:bg-sheet"
      >
        <span className="block truncate font-semibold">
          {column.formula != null && <span className="mr-1 italic text-moss">ƒ</span>}
          {column.name}
          {column.unit && `, ${column.unit}`}
        </span>
        <span className="block truncate text-[12.5px] text-ink-soft">
          {[kindWords[column.kind], limitWords(column)].filter(Boolean).join(" · ")}
        </span>
        <span className="mt-1 block h-[46px] overflow-hidden text-[12.5px] text-ink-soft">
          {summary && <Contents column={column} summary={summary} />}
        </span>
      </button>
    </div>
  );
}

export function limitWords({ lsl, usl, decimals, limit_table }: Column): string {
  if (limit_table) return limit_table.by == null ? "limits by date" : "limits by product";
  const show = (value: number) =>
    decimals == null ? String(value) : String(Number(fixed(value, decimals).replace("−", "-")));
  const range =
    lsl != null && usl != null
      ? `${show(lsl)} to ${show(usl)}`
      : lsl != null
        ? `from ${show(lsl)}`
        : usl != null
          ? `up to ${show(usl)}`
          : "";
  return range;
}

function Contents({ column, summary }: { column: Column; summary: Schema["ColumnSummary"] }) {
  if (summary.n === 0) return "empty";
  switch (column.kind) {
    case "date-time":
      return (
        <>
          {shortTime(timeText(summary.min ?? 0))} to
          <br />
          {shortTime(timeText(summary.max ?? 0))}
        </>
      );
    case "category":
      return <Labels summary={summary} />;
    case "text":
      return counted(summary.distinct, "different text", "different texts");
    case "whole-number":
      if (column.lsl == null && column.usl == null)
        return `${summary.min?.toLocaleString("en-US")} to ${summary.max?.toLocaleString("en-US")}`;
      return <HistogramSketch bins={summary.bins} limits={column.limit_table ? NO_LIMITS : column} />;
    case "number":
      return <HistogramSketch bins={summary.bins} limits={column.limit_table ? NO_LIMITS : column} />;
  }
}

function Labels({ summary }: { summary: Schema["ColumnSummary"] }) {
  const most = summary.labels[0]?.count ?? 1;
  return summary.labels.map(({ label, count }) => (
    <span key={label} className="relative mb-px block h-[14px] truncate leading-[14px]">
      <span className="absolute inset-y-0 left-0 bg-(--slate-soft)" style={{ width: `${(count / most) * 62}%` }} />
      <span className="relative truncate pl-1 text-[11.5px] text-ink">{label}</span>
    </span>
  ));
}
