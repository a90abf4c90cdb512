import { type KeyboardEvent, type PointerEvent, type RefObject, useMemo, useState } from "react";
import { counted, type ValueFormat, writerOf } from "../../lib/format";
import { InOrder, Ranges } from "../../marks/in-order";
import { Axis } from "../../marks/panel-marks";
import { Heading, Sheet } from "../../marks/sheet";
import { AgainstShape } from "./against-shape";
import { Fences, Forbidden } from "./fences";
import { Histogram } from "./histogram";
import { IndexStrip } from "./index-strip";
import { type OneScale as Layout, type Numbers, nearest, placeOneScale } from "./layout";

type Props = {
  numbers: Numbers;
  name: string;
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
  shown: Record<string, boolean>;
};

/** The values in the order taken, as a histogram and against their shape, side by side on one value axis. */
export function OneScale({ numbers, name, size, figure, shown }: Props) {
  const [lit, setLit] = useState<number | null>(null);
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const layout = useMemo(
    () => placeOneScale(numbers, size.width, size.height, shown.spread ?? false),
    [numbers, size.width, size.height, shown.spread],
  );
  const values = numbers.plot.map((point) => point.value);
  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setLit(pointed(layout, numbers, event.clientX - box.left, event.clientY - box.top));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key];
    if (event.key === "Escape") setLit(null);
    if (!step || values.length === 0) return;
    event.preventDefault();
    const here = lit === null ? Math.floor(values.length / 2) - step : values.findIndex((value) => value >= lit);
    // Equal values are one stop.
    let next = Math.max(0, Math.min(values.length - 1, here + step));
    while (values[next] === lit && next > 0 && next < values.length - 1) next += Math.sign(step);
    setLit(values[next] ?? null);
  };
  const words = summary(numbers, name, writer);
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Values of ${name}`}
      aria-orientation="vertical"
      aria-valuemin={0}
      aria-valuemax={Math.max(1, values.length - 1)}
      aria-valuenow={lit === null ? 0 : Math.max(0, values.indexOf(lit))}
      aria-valuetext={lit === null ? words : litWords(numbers, lit, writer)}
      onKeyDown={onKeyDown}
      onBlur={() => setLit(null)}
      className="relative h-full rounded-xl"
    >
      <Sheet
        figure={figure}
        size={size}
        label={words}
        onPointerMove={onPointerMove}
        onPointerLeave={() => setLit(null)}
      >
        <Titles layout={layout} numbers={numbers} writer={writer} />
        <Forbidden layout={layout} />
        {layout.order && <Axis layout={layout.order} writer={writer} />}
        {layout.order && <InOrder layout={layout.order} />}
        <Histogram layout={layout} numbers={numbers} lit={lit} shown={shown} />
        <AgainstShape layout={layout} numbers={numbers} lit={lit} />
        <Fences layout={layout} numbers={numbers} writer={writer} withMean={shown.mean ?? true} />
        {layout.spread && (
          <Ranges layout={layout.spread} writer={writer} scaled={numbers.transform != null || numbers.fit != null} />
        )}
        {lit !== null && <Lit layout={layout} numbers={numbers} value={lit} writer={writer} />}
        <IndexStrip numbers={numbers} left={layout.histogram.left} size={size} />
      </Sheet>
    </div>
  );
}

/** What is pointed at: a point, a bar's values or a point of the plot, else the height itself. */
function pointed(layout: Layout, numbers: Numbers, x: number, y: number): number | null {
  const { histogram, plot, order } = layout;
  if (y < histogram.top || y > histogram.bottom || x > plot.right + 4) return null;
  const at = layout.y.invert(y);
  if (x >= plot.left) return nearest(numbers.plot, (point) => point.value, at)?.value ?? null;
  if (x >= histogram.left) return at;
  const points = order?.numbers.points ?? [];
  const near = nearest(points, (point) => point.i, order?.x.invert(x) ?? 0);
  return near?.value ?? null;
}

function Lit({
  layout,
  numbers,
  value,
  writer,
}: {
  layout: Layout;
  numbers: Numbers;
  value: number;
  writer: ValueFormat;
}) {
  const at = layout.y(value);
  const { order, plot } = layout;
  const same = order?.numbers.points.filter((point) => point.value != null && Math.abs(layout.y(point.value) - at) < 1);
  const words = litWords(numbers, value, writer);
  const wide = 7 * words.length + 16;
  return (
    <g pointerEvents="none" data-testid="lit">
      <path d={`M${order?.box.left ?? 0} ${at}H${plot.right}`} stroke="var(--ink)" strokeOpacity="0.55" />
      {order &&
        same
          ?.slice(0, 12)
          .map((point) => (
            <circle
              key={point.i}
              cx={order.x(point.i)}
              cy={at}
              r="5.5"
              fill="none"
              stroke="var(--ink)"
              strokeWidth="1.6"
            />
          ))}
      <g transform={`translate(${plot.right - wide},${at > layout.histogram.top + 34 ? at - 30 : at + 8})`}>
        <rect width={wide} height="23" rx="6" fill="var(--sheet)" stroke="var(--hairline)" />
        <text x="9" y="16" fontSize="12.5" fill="var(--ink)">
          {words}
        </text>
      </g>
    </g>
  );
}

/** "1.285 mm: in the bar from 1.28 up to 1.30 with 12 values". */
function litWords(numbers: Numbers, value: number, writer: ValueFormat): string {
  const bin = numbers.bins.find((bin, index) => {
    const last = index === numbers.bins.length - 1;
    return value >= bin.from && (value < bin.to || (last && value <= bin.to));
  });
  const bar = bin && `${bin.count} from ${writer.bareComputed(bin.from)} to ${writer.bareComputed(bin.to)}`;
  return bar ? `${writer.computed(value)} · ${bar}` : writer.computed(value);
}

function Titles({ layout, numbers, writer }: { layout: Layout; numbers: Numbers; writer: ValueFormat }) {
  const { order, histogram, plot } = layout;
  const found = counted(numbers.signals, "signal", "signals");
  const signals = numbers.steady ? "steady: no signal" : numbers.signals_by_chance ? `${found}, by chance` : found;
  const location = numbers.chart?.panels[0];
  const what = numbers.chart && location ? location.title : "";
  const p = numbers.shape_p;
  const fits =
    p == null
      ? "not tested"
      : `${p < 0.001 ? "p below 0.001" : `p = ${p.toFixed(p < 0.01 ? 3 : 2)}`}${numbers.misfits ? ": does not fit" : ": fits"}`;
  const heads: [number, string, string][] = [
    [order?.box.left ?? 0, "In the order taken", `${what}, ${signals}${writer.unit ? `; in ${writer.unit}` : ""}`],
    [histogram.left, "Histogram", `${numbers.n.toLocaleString("en-US")} values`],
    [plot.left, `Probability plot, ${shortened(numbers.shape.replace(/^a /, ""))}`, fits],
  ];
  return heads.map(([x, title, under]) => (
    <g key={title}>
      <Heading x={x} y={25}>
        {title}
      </Heading>
      <text x={x} y="43" fontSize="12.5" fill="var(--ink-soft)">
        {under}
      </text>
    </g>
  ));
}

const shortened = (words: string) => (words.length > 24 ? `${words.slice(0, 23)}…` : words);

function summary(numbers: Numbers, name: string, writer: ValueFormat): string {
  const { lsl, usl } = numbers.limits;
  const limits = [lsl != null && `LSL ${writer.value(lsl)}`, usl != null && `USL ${writer.value(usl)}`]
    .filter(Boolean)
    .join(", ");
  const index = numbers.ppk == null ? "" : ` Ppk ${numbers.ppk.toFixed(2)}.`;
  return `${name}: ${numbers.n} values in order, as a histogram and against ${numbers.shape}; ${limits}.${index} Up and down go from value to value.`;
}
