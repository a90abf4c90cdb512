import type { ValueFormat } from "../../lib/format";
import { spreadLabels } from "../../marks/panel-layout";
import type { Numbers, OneScale } from "./layout";

/** The regions beyond the limits, hatched across all three panes. */
export function Forbidden({ layout }: { layout: OneScale }) {
  const { histogram, plot, order } = layout;
  const left = order?.box.left ?? histogram.left;
  return layout.fences.map(({ side, value }) => {
    const at = layout.y(value);
    const [top, bottom] = side === "usl" ? [histogram.top - 8, at] : [at, histogram.bottom];
    if (bottom - top < 2) return null;
    const strokes = [];
    for (let x = left - (bottom - top); x < plot.right; x += 11) {
      const from = Math.max(left, x);
      const to = Math.min(plot.right, x + (bottom - top));
      if (to > from) strokes.push(`M${from} ${bottom - (from - x)}L${to} ${bottom - (to - x)}`);
    }
    return <path key={side} d={strokes.join("")} stroke="var(--ink)" strokeOpacity="0.14" strokeWidth="0.9" />;
  });
}

type FencesProps = { layout: OneScale; numbers: Numbers; writer: ValueFormat; withMean: boolean };

/** The fences themselves, the aim and the natural bound, named at the right end. */
export function Fences({ layout, numbers, writer, withMean }: FencesProps) {
  const { histogram, plot, order, y } = layout;
  const left = order?.box.left ?? histogram.left;
  const { target, bound } = numbers.limits;
  const [bottom = 0, top = 1] = y.domain();
  const inSight = (value: number | null | undefined): value is number => value != null && value > bottom && value < top;
  const labels = [
    ...layout.fences.map(({ side, value }) => ({ words: side.toUpperCase(), value, bold: true })),
    ...(inSight(target) ? [{ words: "◂ target", value: target, bold: false }] : []),
    ...(inSight(bound) ? [{ words: "bound", value: bound, bold: false }] : []),
    ...(numbers.mean == null || !withMean ? [] : [{ words: "mean", value: numbers.mean, bold: false }]),
  ];
  const places = spreadLabels(
    labels.map((label) => y(label.value)),
    15,
    histogram,
  );
  return (
    <g>
      {layout.fences.map(({ side, value }) => (
        <path key={side} d={`M${left} ${y(value)}H${plot.right}`} stroke="var(--ink)" strokeWidth="2" />
      ))}
      {inSight(bound) && (
        <path d={`M${left} ${y(bound)}H${plot.right}`} stroke="var(--ink-soft)" strokeDasharray="1 3" />
      )}
      {labels.map(({ words, value, bold }, index) => (
        <text
          key={words}
          x={plot.right + 7}
          y={(places[index] ?? 0) + 4}
          fontSize="12"
          fontWeight={bold ? 600 : 400}
          fill={words === "mean" ? "var(--moss)" : bold ? "var(--ink)" : "var(--ink-soft)"}
        >
          {words} {words === "mean" ? writer.bareComputed(value) : String(value)}
        </text>
      ))}
      {layout.far.map(({ side, value }) => (
        <text
          key={side}
          x={plot.right}
          y={side === "usl" ? histogram.top - 4 : histogram.bottom - 4}
          textAnchor="end"
          fontSize="12"
          fill="var(--ink-soft)"
        >
          {side.toUpperCase()} {String(value)} lies far {side === "usl" ? "above" : "below"}
        </text>
      ))}
    </g>
  );
}
