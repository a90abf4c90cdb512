import { GroupName } from "./marks";
import type { PictureProps } from "./picture-props";

const HALF = 13;

/** Box plots in rows: quartiles, whiskers, far values, and the mean as a tick. */
export function Boxes({ cells, writer, shown }: PictureProps) {
  return cells.map((cell) => {
    const { group, box, x } = cell;
    const { box_plot: one, q1, median, q3, mean } = group;
    if (!one || q1 == null || q3 == null || median == null) return null;
    const middle = (box.top + box.bottom) / 2;
    const half = Math.min(HALF * (cells.length === 1 ? 3 : 1), (box.bottom - box.top) * 0.4);
    const words = `${group.label ?? "all"}: median ${writer.value(median)}, half lie from ${writer.bareComputed(q1)} to ${writer.computed(q3)}`;
    return (
      <g key={cell.index}>
        <title>{words}</title>
        <path d={`M${x(one.low)} ${middle}H${x(q1)}M${x(q3)} ${middle}H${x(one.high)}`} stroke="var(--slate)" />
        <path
          d={`M${x(one.low)} ${middle - half / 2}v${half}M${x(one.high)} ${middle - half / 2}v${half}`}
          stroke="var(--slate)"
        />
        <rect
          x={x(q1)}
          width={Math.max(1, x(q3) - x(q1))}
          y={middle - half}
          height={2 * half}
          fill="var(--slate)"
          fillOpacity="0.2"
          stroke="var(--slate)"
        />
        <path d={`M${x(median)} ${middle - half}v${2 * half}`} stroke="var(--slate)" strokeWidth="2.6" />
        {shown.mean !== false && mean != null && (
          <path d={`M${x(mean)} ${middle - half - 3}v${2 * half + 6}`} stroke="var(--moss)" strokeWidth="1.6" />
        )}
        {one.far.map((value, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: far values may be equal
          <circle key={index} cx={x(value)} cy={middle} r="2.8" fill="none" stroke="var(--slate)" strokeWidth="1.3" />
        ))}
        <GroupName cell={cell} beside />
      </g>
    );
  });
}
