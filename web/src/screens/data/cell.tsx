import type { Column } from "../../api/queries";
import { fixed, isNumeric, shortTime } from "../../lib/format";
import type { Side } from "./shown";

type Props = {
  column: Column;
  text: string | null | undefined;
  /** Whether only that there is something is told. */
  hidden: boolean;
  /** On which side of its limits it lies. */
  side: Side | undefined;
  decimals: number;
  width: number;
  held: number | undefined;
  active: boolean;
  /** Whether it belongs to a chosen block. */
  within: boolean;
  id: string;
  onPick: (extend: boolean) => void;
  /** The pointer came over it with its button down. */
  onDrag: () => void;
  onEdit: () => void;
};

/** One value of the table, marked where it lies beyond a limit. */
export function Cell({
  column,
  text,
  hidden,
  side,
  decimals,
  width,
  held,
  active,
  within,
  id,
  onPick,
  onDrag,
  onEdit,
}: Props) {
  const number = isNumeric(column.kind) && text != null && !hidden ? Number(text) : null;
  const beyond = number !== null && side !== undefined;
  return (
    <div
      id={id}
      role="gridcell"
      aria-selected={active || within}
      onMouseDown={(event) => event.button === 0 && onPick(event.shiftKey)}
      onMouseEnter={(event) => event.buttons === 1 && onDrag()}
      onDoubleClick={onEdit}
      style={{ width, left: held }}
      className={`shrink-0 truncate border-l border-hairline/60 px-2.5 py-[3px] ${isNumeric(column.kind) ? "text-right" : ""} ${
        held === undefined
          ? ""
          : "sticky z-[4] bg-sheet shadow-[3px_0_4px_-2px_rgb(0_0_0/0.22)] group-data-[carried]:bg-tint"
      } ${
        active
          ? "outline-2 -outline-offset-2 outline-moss"
          : within
            ? (held === undefined ? "bg-moss/15" : "!bg-tint")
            : ""
      } ${beyond ? "font-semibold text-clay" : ""}`}
    >
      {text === undefined && <span className="text-ink-soft">…</span>}
      {text === null && (
        <span className="text-ink-soft">{column.kind === "text" || column.kind === "category" ? "" : "missing"}</span>
      )}
      {text != null && (hidden ? <span className="text-ink-soft">read</span> : shown(column, text, number, decimals))}
      {beyond && <span aria-hidden>{side === "above" ? " ▲" : " ▼"}</span>}
    </div>
  );
}

function shown(column: Column, text: string, number: number | null, decimals: number): string {
  if (number !== null) return fixed(number, Math.max(decimals, column.decimals == null ? decimalsOf(text) : 0));
  return column.kind === "date-time" ? shortTime(text) : text;
}

const decimalsOf = (text: string) => (text.includes("e") ? 0 : Math.min(6, text.split(".")[1]?.length ?? 0));
