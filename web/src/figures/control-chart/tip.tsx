import type { Schema } from "../../api/client";
import { shortTime, type ValueFormat, writerOf } from "../../lib/format";
import type { PanelLayout, PointNumbers } from "../../marks/panel-layout";

type Props = {
  point: PointNumbers;
  numbers: Schema["ControlChartNumbers"];
  writer: ValueFormat;
  x: number;
  layout: PanelLayout;
};

const CONTENTS_SHOWN = 10;
const LOWER: Record<string, string> = { "moving-range": "step", range: "range", sd: "sd" };

/** What a point is: value, contents, rows, limits, signals. Keeps to the side where there is room and never covers its point. */
export function Tip({ point, numbers, writer, x, layout }: Props) {
  const left = x < (layout.box.left + layout.box.right) / 2;
  const signals = numbers.panels.flatMap((panel) =>
    panel.signals.filter((s) => point.i >= s.first && point.i <= s.last),
  );
  const patterns = [...new Set(signals.map((signal) => signal.pattern.replaceAll("-", " ")))];
  const lowers = numbers.panels.slice(1).flatMap((panel): [string, string][] => {
    const value = panel.points.find((other) => other.i === point.i)?.value;
    return value == null ? [] : [[LOWER[panel.name] ?? panel.name, writerOf(panel.writer).value(value)]];
  });
  const rows = point.rows.map((row) => row + 1);
  const named = point.label !== String(point.i + 1);
  const lines: [string, string][] = [
    [rows.length > 1 ? "rows" : "row", rows.length > 1 ? `${rows[0]} to ${rows.at(-1)}` : String(rows[0] ?? "")],
    ...(named ? [[/^\d{4}-/.test(point.label) ? "taken" : "name", shortTime(point.label)] as [string, string]] : []),
    ...(point.lcl != null && point.ucl != null
      ? [["limits", `${writer.bareComputed(point.lcl)} to ${writer.bareComputed(point.ucl)}`] as [string, string]]
      : []),
    ...lowers,
    ...(point.upper != null && point.lower != null
      ? [["sums", `${writer.bareComputed(point.upper)} and ${writer.bareComputed(point.lower)}`] as [string, string]]
      : []),
    ...(point.omitted ? [["", "left out of the limits"] as [string, string]] : []),
  ];
  const contents = point.contents ?? [];
  return (
    <div
      aria-hidden
      className="pointer-events-none absolute z-10 w-56 rounded-lg border border-hairline bg-sheet p-2.5 text-[13px] shadow-lg"
      style={{ top: layout.box.top + 4, ...(left ? { left: x + 18 } : { right: `calc(100% - ${x - 18}px)` }) }}
    >
      <p className="text-[15px] font-semibold">{point.value == null ? "missing" : writer.value(point.value)}</p>
      <dl className="grid grid-cols-[52px_1fr] gap-x-2">
        {lines.map(([term, words]) => (
          <div key={term} className="contents">
            <dt className="text-ink-soft">{term}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      {contents.length > 0 && (
        <p className="mt-1 border-t border-hairline pt-1 text-ink-soft">
          {contents.slice(0, CONTENTS_SHOWN).map(String).join("  ")}
          {contents.length > CONTENTS_SHOWN && ` and ${contents.length - CONTENTS_SHOWN} more`}
        </p>
      )}
      {patterns.length > 0 && <p className="mt-1 font-semibold text-plum">{patterns.join(", ")}</p>}
    </div>
  );
}
