import { fixed } from "../../lib/format";
import { Heading } from "../sheet";
import type { Numbers, Staircase } from "./layout";

const TITLES = {
  tolerance: "Against the tolerance",
  process: "Against the process",
  study: "Against all that was seen",
};
const COLOURS: Record<string, string> = { repeatability: "--slate", operators: "--ochre", gauge: "--plum" };
const PERCENT = (share: number | null | undefined) =>
  share == null ? "" : `${fixed(100 * share, share < 0.1 ? 1 : 0)} %`;

/** Upright rulers as long as the spreads, in a frame as tall as what they are held against; beside them the parts' spread
 * in as many bands as the gauge tells apart. */
export function Rulers({ numbers, layout }: { numbers: Numbers; layout: Staircase }) {
  const { rulers, y, middle } = layout;
  const high = (wide: number) => Math.abs(y(0) - y(wide));
  const centre = y(middle);
  const top = (wide: number) => centre - high(wide) / 2;
  const gauges = numbers.spreads.filter(({ source }) => source !== "parts");
  const parts = numbers.spreads.find(({ source }) => source === "parts");
  const wide = rulers.right - rulers.left - 66;
  const each = wide / gauges.length;
  const frame = numbers.basis_wide;
  const inSight = frame != null && top(frame) > rulers.top - 12;
  const bands = Math.min(60, numbers.ndc ?? 0);
  return (
    <g>
      <Heading x={rulers.left} y={46}>
        {TITLES[numbers.basis]}
      </Heading>
      {frame != null && inSight && (
        <rect
          x={rulers.left}
          width={wide}
          y={top(frame)}
          height={high(frame)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.6"
          strokeDasharray="1.5 3.5"
        />
      )}
      {frame != null && !inSight && (
        <text x={rulers.left} y={rulers.bottom + 16} fontSize="12" fill="var(--ink-soft)">
          the frame is {fixed(frame / Math.max(...gauges.map((one) => one.wide), 1e-300), 0)} times the gauge
        </text>
      )}
      {gauges.map(({ source, wide, share }, place) => {
        const left = rulers.left + each * (place + 0.5) - 13;
        return (
          <g key={source}>
            <rect
              x={left}
              width="26"
              y={Math.max(rulers.top, top(wide))}
              height={Math.min(rulers.bottom - rulers.top, Math.max(1.5, high(wide)))}
              rx="3"
              fill={`var(${COLOURS[source]})`}
              fillOpacity="0.85"
            />
            <text
              x={left + 13}
              y={Math.min(rulers.bottom, top(wide) + high(wide)) + 16}
              fontSize="12"
              fontWeight="600"
              textAnchor="middle"
              fill="var(--ink)"
            >
              {PERCENT(share)}
            </text>
            <text
              transform={`translate(${left + 17},${Math.max(rulers.top, top(wide)) - 8}) rotate(-90)`}
              fontSize="12"
              fill="var(--ink-soft)"
            >
              {source}
            </text>
          </g>
        );
      })}
      {parts && bands > 0 && (
        <g>
          {Array.from({ length: bands }, (_, band) => (
            <rect
              // biome-ignore lint/suspicious/noArrayIndexKey: bands are told apart by their place
              key={band}
              x={rulers.right - 46}
              width="20"
              y={top(parts.wide) + (high(parts.wide) * band) / bands}
              height={high(parts.wide) / bands}
              fill="var(--moss)"
              fillOpacity={band % 2 === 0 ? 0.34 : 0.16}
            />
          ))}
          <text
            transform={`translate(${rulers.right - 14},${centre}) rotate(90)`}
            textAnchor="middle"
            fontSize="12"
            fill="var(--ink-soft)"
          >
            parts: {numbers.ndc} {numbers.ndc === 1 ? "step" : "steps"} told apart
          </text>
        </g>
      )}
    </g>
  );
}
