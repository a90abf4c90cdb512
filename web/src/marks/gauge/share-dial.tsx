import { arc } from "d3-shape";
import { fixed } from "../../lib/format";
import type { Numbers } from "./layout";

/** Up to this share a gauge is good; above the other it cannot be used. */
const GOOD = 0.1;
const POOR = 0.3;
/** The arc ends here; a worse gauge points at its end. */
const MOST = 0.5;
const WIDTH = 220;
const HEIGHT = 122;
const RADIUS = 88;

const angle = (share: number) => Math.PI * (Math.min(share, MOST) / MOST - 0.5);
const path = arc<{ from: number; to: number; inner: number; outer: number }>()
  .startAngle(({ from }) => angle(from))
  .endAngle(({ to }) => angle(to))
  .innerRadius(({ inner }) => inner)
  .outerRadius(({ outer }) => outer);
const part = (from: number, to: number, inner = RADIUS - 12, outer = RADIUS) => path({ from, to, inner, outer }) ?? "";

type Props = Pick<Numbers, "share" | "basis"> & { interval: number[] | null | undefined };

const OF = { tolerance: "of the tolerance", process: "of the process spread", study: "of the study" };

/** The gauge at a glance: a needle at its share, an arc marked where it is good and where it cannot be used. */
export function ShareDial({ share, basis, interval }: Props) {
  if (share == null) return null;
  const [x, y] = [Math.sin(angle(share)), -Math.cos(angle(share))];
  const [low, high] = interval ?? [];
  const mark = (at: number) => {
    const [u, v] = [Math.sin(angle(at)), -Math.cos(angle(at))];
    return (
      <text x={(RADIUS + 15) * u} y={(RADIUS + 12) * v + 4} textAnchor="middle" fontSize="12" fill="var(--ink-soft)">
        {fixed(100 * at, 0)}
      </text>
    );
  };
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`The gauge takes ${fixed(100 * share, 1)} % ${OF[basis]}.`}
      className="mx-auto mt-1.5 block"
    >
      <g transform={`translate(${WIDTH / 2},${HEIGHT - 16})`}>
        <path d={part(0, GOOD)} fill="var(--moss)" fillOpacity="0.75" />
        <path d={part(GOOD, POOR)} fill="var(--ochre)" fillOpacity="0.6" />
        <path d={part(POOR, MOST)} fill="var(--plum)" fillOpacity="0.6" />
        {low !== undefined && high !== undefined && (
          <path d={part(low, high, RADIUS - 20, RADIUS - 16)} fill="var(--ink)" />
        )}
        {mark(GOOD)}
        {mark(POOR)}
        <path
          d={`M0 0L${(RADIUS - 4) * x} ${(RADIUS - 4) * y}`}
          stroke="var(--ink)"
          strokeWidth="2.4"
          strokeLinecap="round"
        />
        <circle r="6" fill="var(--ink)" />
        <text y="15" textAnchor="middle" fontSize="12" fill="var(--ink-soft)">
          {fixed(100 * share, 1)} % {OF[basis]}
        </text>
      </g>
    </svg>
  );
}
