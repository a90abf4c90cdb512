import { SeriesMark } from "../../marks/series-mark";

/** Which mark is whose, in one line as far as there is room. */
export function Legend({ labels, x, y, right }: { labels: string[]; x: number; y: number; right: number }) {
  let at = x;
  return (
    <g fontSize="12" fill="var(--ink-soft)">
      {labels.map((label, operator) => {
        const short = label.length > 13 ? `${label.slice(0, 12)}…` : label;
        const here = at;
        at += 30 + 7 * short.length;
        if (at > right) return null;
        return (
          <g key={label}>
            <SeriesMark x={here} y={y - 4} series={operator} />
            <text x={here + 10} y={y}>
              {short}
            </text>
          </g>
        );
      })}
    </g>
  );
}
