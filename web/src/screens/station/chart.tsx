import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Schema } from "../../api/client";
import { writerOf } from "../../lib/format";
import { useSize } from "../../lib/use-size";

type Numbers = Extract<Schema["Outcome"]["numbers"], { method: "control-chart" }>;
type Point = Numbers["panels"][number]["points"][number];

/** Points that are in sight at once. */
const IN_SIGHT = 24;
const TALL = 250;
/** Room for the words at the limits. */
const WORDS = 92;

/** The last points of the chart with their limits, to be read from afar. */
export function StationChart({ numbers }: { numbers: Numbers }) {
  const [frame, { width }] = useSize<HTMLDivElement>();
  return (
    <div ref={frame} className="shrink-0" style={{ height: TALL }}>
      {width > 0 && <Chart numbers={numbers} width={width} />}
    </div>
  );
}

function Chart({ numbers, width }: { numbers: Numbers; width: number }) {
  const panel = numbers.panels[0];
  const points = (panel?.points ?? []).filter(({ value }) => value != null).slice(-IN_SIGHT);
  const last = points.at(-1);
  if (!panel || !last) return <p className="py-10 text-center text-[22px] text-ink-soft">No value yet.</p>;
  const { center, ucl, lcl } = last;
  const inUse = [ucl, lcl, center].filter((one): one is number => one != null);
  const all = [...points.map(({ value }) => value as number), ...inUse];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const room = 0.1 * (high - low || 1);
  const box = { left: 8, right: Math.max(200, width - WORDS), top: 8, bottom: TALL - 8 };
  const y = scaleLinear([low - room, high + room], [box.bottom, box.top]);
  // One place more, where the next one will stand.
  const x = scaleLinear([0, IN_SIGHT], [box.left + 12, box.right - 12]);
  const path = line<Point>()
    .x((_, at) => x(at))
    .y(({ value }) => y(value as number));
  const writer = writerOf(panel.writer);
  const isOut = ({ value, ucl, lcl }: Point) =>
    (ucl != null && (value ?? 0) > ucl) || (lcl != null && (value ?? 0) < lcl);
  const newest = numbers.points - 1;
  const inSignal = new Set(panel.signals.filter((one) => one.last === newest).flatMap(range));
  const words = [
    `${panel.title}, the last ${points.length}: newest ${writer.computed(last.value as number)}`,
    center == null ? "" : `centre ${writer.computed(center)}`,
    inSignal.size > 0 ? "in a signal" : "no signal at the newest",
  ];
  const across = `H${box.right}`;
  return (
    <svg width="100%" height={TALL} role="img" aria-label={words.filter(Boolean).join(", ")}>
      {ucl != null && <path d={`M${box.left} ${box.top}${across}V${y(ucl)}H${box.left}z`} fill="var(--wash)" />}
      {lcl != null && <path d={`M${box.left} ${y(lcl)}${across}V${box.bottom}H${box.left}z`} fill="var(--wash)" />}
      {(
        [
          [ucl, "UCL"],
          [lcl, "LCL"],
        ] as const
      ).map(([at, words]) =>
        at == null ? null : (
          <g key={words}>
            <path d={`M${box.left} ${y(at)}${across}`} stroke="var(--ochre)" strokeWidth="2" strokeDasharray="12 6" />
            <text x={box.right + 10} y={y(at) + 6} fontSize="18" fill="var(--ochre)">
              {words}
            </text>
          </g>
        ),
      )}
      {center != null && (
        <g>
          <path d={`M${box.left} ${y(center)}${across}`} stroke="var(--moss)" strokeWidth="2" />
          <text x={box.right + 10} y={y(center) + 6} fontSize="18" fill="var(--moss)">
            {writer.bareComputed(center)}
          </text>
        </g>
      )}
      <path d={path(points) ?? ""} fill="none" stroke="var(--slate)" strokeOpacity="0.6" strokeWidth="1.6" />
      {points.map((point, at) => {
        const [left, top] = [x(at), y(point.value as number)];
        return inSignal.has(point.i) || isOut(point) ? (
          <path key={point.i} d={`M${left} ${top - 9}l9 9l-9 9l-9 -9z`} fill="var(--plum)" />
        ) : (
          <circle key={point.i} cx={left} cy={top} r="6.5" fill="var(--slate)" />
        );
      })}
      <circle
        cx={x(points.length)}
        cy={y(center ?? (low + high) / 2)}
        r="7"
        fill="none"
        stroke="var(--slate)"
        strokeWidth="2"
        strokeDasharray="3 3"
      />
    </svg>
  );
}

const range = ({ first, last }: { first: number; last: number }) =>
  Array.from({ length: last - first + 1 }, (_, at) => first + at);
