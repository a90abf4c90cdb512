import type { Schema } from "../../api/client";
import { shortTime, type Writer } from "../../lib/format";
import type { PanelLayout, PointNumbers } from "./layout";

type Props = {
  point: PointNumbers;
  numbers: Schema["ControlChartNumbers"];
  writer: Writer;
  x: number;
  layout: PanelLayout;
};

/** What a point is: value, row, limits, signals. Keeps to the side where there is room and never covers its point. */
export function Tip({ point, numbers, writer, x, layout }: Props) {
  const left = x < (layout.box.left + layout.box.right) / 2;
  const step = numbers.panels[1]?.points.find((other) => other.i === point.i)?.value;
  const signals = numbers.panels.flatMap((panel) =>
    panel.signals.filter((s) => point.i >= s.first && point.i <= s.last),
  );
  const patterns = [...new Set(signals.map((signal) => signal.pattern.replaceAll("-", " ")))];
  const lines: [string, string][] = [
    ["row", String((point.row_ids[0] ?? 0) + 1)],
    ...(point.label === String(point.i + 1) ? [] : [["taken", shortTime(point.label)] as [string, string]]),
    ...(point.lcl != null && point.ucl != null
      ? [["limits", `${writer.bareComputed(point.lcl)} to ${writer.bareComputed(point.ucl)}`] as [string, string]]
      : []),
    ...(step != null ? [["step", writer.value(step)] as [string, string]] : []),
    ...(point.omitted ? [["", "left out of the limits"] as [string, string]] : []),
  ];
  return (
    <div
      aria-hidden
      className="pointer-events-none absolute z-10 w-52 rounded-lg border border-hairline bg-sheet p-2.5 text-[13px] shadow-lg"
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
      {patterns.length > 0 && <p className="mt-1 font-semibold text-plum">{patterns.join(", ")}</p>}
    </div>
  );
}
