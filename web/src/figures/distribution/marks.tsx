import type { ValueFormat } from "../../lib/format";
import type { Cell, Fence } from "./layout";

/** The axis of values under a cell. */
export function ValueAxis({ cell, writer }: { cell: Cell; writer: ValueFormat }) {
  const { box, x } = cell;
  const ticks = x.ticks(Math.max(2, Math.floor((box.right - box.left) / 80)));
  const step = Math.abs((ticks[1] ?? 1) - (ticks[0] ?? 0));
  const decimals = Math.max(0, Math.min(writer.computedDecimals, Math.ceil(-Math.log10(step || 1) - 1e-9)));
  return (
    <g fontSize="12" fill="var(--ink-soft)" textAnchor="middle">
      <path d={`M${box.left} ${box.bottom}H${box.right}`} stroke="var(--hairline)" strokeWidth="1.5" />
      {ticks.map((tick) => (
        <g key={tick}>
          <path d={`M${x(tick)} ${box.bottom}v5`} stroke="var(--hairline)" />
          <text x={x(tick)} y={box.bottom + 18}>
            {tick.toFixed(decimals).replace("-", "−")}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Specification limits: fences across the cell, hatched on the forbidden side. */
export function Fences({ cell, fences, labelled }: { cell: Cell; fences: Fence[]; labelled: boolean }) {
  const { box, x } = cell;
  return fences.map(({ side, value }) => {
    const at = x(value);
    const out = side === "usl" ? 6 : -6;
    const strokes = [];
    for (let y = box.top + 3; y < box.bottom - 3; y += 9) strokes.push(`M${at} ${y + 5}l${out} -5`);
    return (
      <g key={side} stroke="var(--ink)">
        <path d={`M${at} ${box.top}V${box.bottom}`} strokeWidth="2" />
        <path d={strokes.join("")} strokeWidth="0.8" strokeOpacity="0.6" />
        {labelled && (
          <text
            x={at}
            y={box.top - 5}
            stroke="none"
            fill="var(--ink)"
            fontSize="12"
            fontWeight="600"
            textAnchor="middle"
          >
            {side.toUpperCase()} {String(value)}
          </text>
        )}
      </g>
    );
  });
}

/** The name and size of a group, above its cell or beside it. */
export function GroupName({ cell, beside }: { cell: Cell; beside: boolean }) {
  const { group, box } = cell;
  if (group.label == null) return null;
  const label = group.label.length > 24 ? `${group.label.slice(0, 23)}…` : group.label;
  return beside ? (
    <text x={box.left - 10} y={(box.top + box.bottom) / 2 + 4} fontSize="12" textAnchor="end" fill="var(--ink)">
      {label}
    </text>
  ) : (
    <text x={box.left} y={box.top - 4} fontSize="12" fill="var(--ink)">
      <tspan fontWeight="600">{label}</tspan>
      <tspan dx="8" fill="var(--ink-soft)">
        {group.n} values
      </tspan>
    </text>
  );
}
