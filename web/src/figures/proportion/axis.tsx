import { fixed } from "../../lib/format";
import type { Scale } from "../../marks/panel-layout";

type Props = { x: Scale; foot: number; percent: boolean };

/** The axis of shares in percent, or of rates. */
export function ShareAxis({ x, foot, percent }: Props) {
  const [left = 0, right = 0] = x.range();
  const ticks = x.ticks(Math.max(2, Math.floor((right - left) / 90)));
  const factor = percent ? 100 : 1;
  const step = Math.abs((ticks[1] ?? 1) - (ticks[0] ?? 0)) * factor;
  const decimals = Math.max(0, Math.ceil(-Math.log10(step || 1) - 1e-9));
  return (
    <g fontSize="12" fill="var(--ink-soft)" textAnchor="middle">
      <path d={`M${left} ${foot}H${right}`} stroke="var(--hairline)" strokeWidth="1.5" />
      {ticks.map((tick) => (
        <g key={tick}>
          <path d={`M${x(tick)} ${foot}v5`} stroke="var(--hairline)" />
          <text x={x(tick)} y={foot + 19}>
            {fixed(factor * tick, decimals)}
            {percent ? " %" : ""}
          </text>
        </g>
      ))}
    </g>
  );
}
