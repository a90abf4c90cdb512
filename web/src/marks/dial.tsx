import { arc } from "d3-shape";
import type { Schema } from "../api/client";
import { counted, type ValueFormat } from "../lib/format";
import { type DialGeometry, dialGeometry } from "./dial-layout";

type Props = {
  limits: { lsl?: number | null; target?: number | null; usl?: number | null };
  dial: Schema["Dial"];
  writer: ValueFormat;
  name: string;
  /** Too small for the numbers of the limits. */
  small?: boolean;
};

const RADIUS = 84;
const WIDTH = 244;
const HEIGHT = 124;
const CENTRE = { x: WIDTH / 2, y: 100 };

/** Share of the half circle as an angle from the top, the way d3 counts. */
const angle = (share: number) => (share - 0.5) * Math.PI;
const path = arc<{ from: number; to: number; inner: number; outer: number }>()
  .startAngle((d) => angle(d.from))
  .endAngle((d) => angle(d.to))
  .innerRadius((d) => d.inner)
  .outerRadius((d) => d.outer);
const sweep = (from: number, to: number, inner: number, outer: number) => path({ from, to, inner, outer }) ?? "";
const at = (share: number, radius: number) => ({
  x: Math.sin(angle(share)) * radius,
  y: -Math.cos(angle(share)) * radius,
});

/** One characteristic at a glance: the arc is the tolerance, the needle the mean, the band ± 3 short-term sd,
 * the hub whether it is steady. Of counts the arc begins at nothing, and the band lies within the control limits. */
export function Dial({ limits, dial, writer, name, small }: Props) {
  const geometry = dialGeometry(limits, dial);
  if (!geometry) return null;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mx-auto block w-full max-w-[244px]"
      role="img"
      aria-label={spoken({ limits, dial, writer, name })}
    >
      <g transform={`translate(${CENTRE.x},${CENTRE.y})`}>
        <Arc geometry={geometry} />
        {geometry.outer && <path d={sweep(...geometry.outer, 64, 78)} fill="var(--slate-soft)" />}
        {geometry.inner && <path d={sweep(...geometry.inner, 64, 78)} fill="var(--slate-mid)" />}
        {geometry.beyondRight && <path d={sweep(1, 1.05, 62, 80)} fill="var(--clay)" />}
        {geometry.beyondLeft && <path d={sweep(-0.05, 0, 62, 80)} fill="var(--clay)" />}
        {geometry.target != null && <Tick share={geometry.target} />}
        {geometry.needle != null && <Needle share={geometry.needle} />}
        <g transform={small ? "scale(1.5)" : undefined}>
          <Hub dial={dial} />
        </g>
        <g fill="var(--ink-soft)" fontSize="11.5" textAnchor="middle">
          {!small && (limits.lsl != null || dial.of !== "values") && (
            <text x={-RADIUS - 2} y="18">
              {dial.of === "values" ? String(limits.lsl) : "0"}
            </text>
          )}
          {!small && limits.usl != null && (
            <text x={RADIUS + 2} y="18">
              {String(limits.usl)}
            </text>
          )}
        </g>
      </g>
    </svg>
  );
}

function Arc({ geometry }: { geometry: DialGeometry }) {
  const half = (left: boolean, closed: boolean) => {
    const end = at(left ? 0 : 1, RADIUS);
    return (
      <g stroke={closed ? "var(--ink)" : "var(--ink-soft)"} strokeWidth="2.6" fill="none">
        <path
          d={`M0 ${-RADIUS}A${RADIUS} ${RADIUS} 0 0 ${left ? 0 : 1} ${end.x} ${end.y}`}
          strokeDasharray={closed ? undefined : "2.5 6"}
        />
        {closed && <path d={`M${end.x - 9} 0h18`} />}
      </g>
    );
  };
  return (
    <>
      {half(true, geometry.leftClosed)}
      {half(false, geometry.rightClosed)}
    </>
  );
}

function Tick({ share }: { share: number }) {
  const from = at(share, RADIUS);
  const to = at(share, RADIUS + 9);
  return <path d={`M${from.x} ${from.y}L${to.x} ${to.y}`} stroke="var(--ink)" strokeWidth="2" />;
}

function Needle({ share }: { share: number }) {
  const tip = at(share, RADIUS - 5);
  return <path d={`M0 0L${tip.x} ${tip.y}`} stroke="var(--ink)" strokeWidth="2.2" strokeLinecap="round" />;
}

/** Full: steady. A closed ring: to be looked at, with the count of signals where there are any. Broken, with the count: not steady. */
function Hub({ dial: { signals, steady, tone } }: { dial: Schema["Dial"] }) {
  if (steady && (!tone || tone === "calm")) return <circle r="12" fill="var(--moss)" />;
  const colour = !steady ? "var(--plum)" : tone === "unsure" ? "var(--slate)" : "var(--ochre)";
  const mark = tone === "unsure" ? "?" : "!";
  return (
    <>
      <circle
        r="14"
        fill="var(--sheet)"
        stroke={colour}
        strokeWidth="3"
        strokeDasharray={steady ? undefined : "9.2 5.46"}
      />
      <text y="5" textAnchor="middle" fontSize="14" fontWeight="700" fill={colour}>
        {signals > 99 ? "99+" : signals > 0 ? signals : mark}
      </text>
    </>
  );
}

function spoken({ limits, dial, writer, name }: Props): string {
  const parts = [
    dial.mean != null && `mean ${writer.computed(dial.mean)}`,
    limits.lsl != null && `LSL ${writer.value(limits.lsl)}`,
    limits.usl != null && `USL ${writer.value(limits.usl)}`,
    dial.ucl != null && `UCL ${writer.computed(dial.ucl)}`,
    dial.title ? dial.title.toLowerCase() : dial.steady && "steady",
    dial.signals > 0 && counted(dial.signals, "signal", "signals"),
  ];
  return `${name}: ${parts.filter(Boolean).join(", ")}`;
}
