import { scaleLinear } from "d3-scale";
import { area } from "d3-shape";
import { type PointerEvent, useState } from "react";
import { percent, writerOf } from "../../lib/format";
import { CardButton } from "./card-button";
import type { InputNode } from "./layout";
import type { InputNumbers } from "./model";

type Props = {
  node: InputNode;
  share: number | null;
  picked: boolean;
  onPick: () => void;
  /** Its spread multiplied while it is dragged, and when it is let go; absent where it cannot be. */
  onSpread?: (by: number, done: boolean) => void;
};

const CURVE = { width: 84, height: 36 };

/** An input: its name, how it is distributed, its curve, and how much of the spread it makes. */
export function InputCard({ node: { input, box }, share, picked, onPick, onSpread }: Props) {
  const roomy = box.height >= 64;
  const [hovered, setHovered] = useState<string | null>(null);
  const part = input.part ? ` · ${input.part}` : "";
  return (
    <g transform={`translate(${box.left},${box.top})`}>
      <rect
        width={box.width}
        height={box.height}
        rx="7"
        fill="var(--sheet)"
        stroke={picked ? "var(--moss)" : "var(--hairline)"}
        strokeWidth={picked ? 2 : 1}
      />
      <CardButton label={`Input ${input.name}: ${input.words}`} pressed={picked} onPress={onPick}>
        <rect width={box.width} height={box.height} rx="7" fill="transparent" />
        <text x="12" y={roomy ? 21 : box.height / 2 + 4.5} fontSize="14" fontWeight="600" fill="var(--ink)">
          {cut(input.name, roomy ? 26 : 16)}
          {roomy && (
            <tspan fontSize="12" fontWeight="400" fill="var(--ink-soft)">
              {part}
            </tspan>
          )}
        </text>
        {roomy && (
          <text x="12" y="39" fontSize="12" fill="var(--ink-soft)">
            {cut(input.words, box.height < 90 ? 20 : 34)}
          </text>
        )}
        {share !== null && (
          <text
            x={roomy ? 12 : box.width - 12}
            y={box.height - (roomy ? 12 : box.height / 2 - 4.5)}
            fontSize="13"
            textAnchor={roomy ? "start" : "end"}
          >
            <tspan fontWeight="600" fill="var(--ink)">
              {percent(Math.max(0, Math.min(1, share)))}
            </tspan>
            {roomy && <tspan fill="var(--ink-soft)"> of spread</tspan>}
          </text>
        )}
        <title>{`${input.name}: ${input.words}`}</title>
      </CardButton>
      {hovered && (
        <g data-export="no" fontSize="12" pointerEvents="none">
          <rect x="10" y="27" width={box.width - CURVE.width - 28} height="16" fill="var(--sheet)" />
          <text x="12" y="39" fill="var(--ink)" stroke="var(--sheet)" strokeWidth="3" paintOrder="stroke">
            {hovered}
          </text>
        </g>
      )}
      {roomy && (
        <g transform={`translate(${box.width - CURVE.width - 16},${box.height - CURVE.height - 8})`}>
          <Curve input={input} onHover={setHovered} onSpread={onSpread} />
        </g>
      )}
    </g>
  );
}

type CurveProps = {
  input: InputNumbers;
  onHover: (words: string | null) => void;
  onSpread: Props["onSpread"];
};

/** The curve or the bars of an input; its foot can be dragged. */
function Curve({ input, onHover, onSpread }: CurveProps) {
  const [grip, setGrip] = useState<{ from: number; by: number } | null>(null);
  const { width, height } = CURVE;
  const { curve, bars, percentiles, mean } = input;
  const low = curve[0]?.value ?? bars[0]?.from;
  const high = curve.at(-1)?.value ?? bars.at(-1)?.to;
  if (low === undefined || high === undefined)
    return <path d={`M${width / 2} ${height}V6`} stroke="var(--slate)" strokeWidth="2" />;
  const x = scaleLinear([low, high], [0, width]);
  const most = Math.max(...curve.map(({ density }) => density), ...bars.map(({ count }) => count), Number.MIN_VALUE);
  const y = scaleLinear([0, most], [height - 2, 2]);
  const shape = area<(typeof curve)[number]>()
    .x(({ value }) => x(value))
    .y0(height - 2)
    .y1(({ density }) => y(density))(curve);
  const writer = writerOf(input.writer);
  const middle = x(mean ?? (low + high) / 2);
  const hover = (event: PointerEvent<SVGRectElement>) => {
    const at = x.invert(event.clientX - event.currentTarget.getBoundingClientRect().left);
    const nearest = [...percentiles].sort((a, b) => Math.abs(a.value - at) - Math.abs(b.value - at))[0];
    if (nearest) onHover(`${Number((100 * nearest.share).toPrecision(5))} % below ${writer.computed(nearest.value)}`);
  };
  const reach = Math.max(8, width - middle);
  const drag = (event: PointerEvent<SVGCircleElement>, done: boolean) => {
    if (!grip) return;
    const by = Math.max(0, Math.min(5, 1 + (event.clientX - grip.from) / reach));
    if (Math.abs(by - grip.by) > 0.004 || done) onSpread?.(by, done);
    setGrip(done ? null : { ...grip, by });
  };
  const slide = (by: number) => onSpread?.(by, true);
  return (
    <g>
      {shape && curve.length > 0 && <path d={shape} fill="var(--slate)" fillOpacity="0.85" />}
      {bars.map(({ from, to, count }) => (
        <rect
          key={from}
          x={x(from)}
          width={Math.max(0.5, x(to) - x(from) - 0.5)}
          y={y(count)}
          height={height - 2 - y(count)}
          fill="var(--slate)"
          fillOpacity="0.85"
        />
      ))}
      <path d={`M0 ${height - 1.5}H${width}`} stroke="var(--hairline)" />
      <rect
        width={width}
        height={height}
        fill="transparent"
        onPointerMove={hover}
        onPointerLeave={() => onHover(null)}
      />
      {onSpread && (
        <circle
          data-export="no"
          role="slider"
          tabIndex={0}
          aria-label={`Spread of ${input.name}`}
          aria-valuenow={Math.round(100 * (grip?.by ?? 1))}
          aria-valuemin={0}
          aria-valuemax={500}
          aria-valuetext={`sd ${input.sd === null || input.sd === undefined ? "unknown" : writer.computed(input.sd)}`}
          cx={width + 4}
          cy={height - 2}
          r="5"
          fill="var(--sheet)"
          stroke="var(--moss)"
          strokeWidth="1.8"
          className="cursor-ew-resize touch-none"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setGrip({ from: event.clientX, by: 1 });
          }}
          onPointerMove={(event) => drag(event, false)}
          onPointerUp={(event) => drag(event, true)}
          onPointerCancel={() => setGrip(null)}
          onKeyDown={(event) => {
            const by = { ArrowRight: 1.1, ArrowUp: 1.1, ArrowLeft: 1 / 1.1, ArrowDown: 1 / 1.1 }[event.key];
            if (by === undefined) return;
            event.preventDefault();
            slide(by);
          }}
        />
      )}
    </g>
  );
}

export const cut = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);
