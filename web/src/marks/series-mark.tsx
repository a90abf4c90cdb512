const COLOURS = ["--slate", "--ochre", "--moss", "--plum", "--group-5", "--group-6", "--group-7", "--group-8"] as const;

/** Outlines about 0, 0: circle, square, triangle, diamond, then the same hollow. */
const SHAPES = [
  "M-3.6 0a3.6 3.6 0 1 0 7.2 0a3.6 3.6 0 1 0-7.2 0",
  "M-3.3-3.3h6.6v6.6h-6.6z",
  "M0-4.2l4 7.2h-8z",
  "M0-4.6l4.2 4.6-4.2 4.6-4.2-4.6z",
];

export const seriesColour = (series: number): string => `var(${COLOURS[series % COLOURS.length]})`;

/** The point of an operator or a group: a shape and a colour of its own. */
export function SeriesMark({ x, y, series, faint }: { x: number; y: number; series: number; faint?: boolean }) {
  const hollow = series % 8 >= 4;
  return (
    <path
      d={SHAPES[series % 4]}
      transform={`translate(${x},${y})`}
      fill={hollow ? "var(--sheet)" : seriesColour(series)}
      stroke={seriesColour(series)}
      strokeWidth={hollow ? 1.5 : 0}
      fillOpacity={faint ? 0.35 : 1}
    />
  );
}
