import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Schema } from "../../api/client";
import { shareWords, writerOf } from "../../lib/format";
import type { Box } from "../../marks/panel-layout";

type Point = Schema["CurvePoint"];

/** The normal with its limits, the tails beyond them filled. */
export function NormalCurve({ normal, box }: { normal: Schema["NormalNumbers"]; box: Box }) {
  const write = writerOf(normal.writer);
  const { lsl, usl, curve } = normal;
  const ends = [curve[0]?.value, curve.at(-1)?.value, lsl, usl].filter((value): value is number => value != null);
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const pad = (high - low) * 0.04;
  const x = scaleLinear([low - pad, high + pad], [box.left, box.right]);
  const y = scaleLinear([0, 1.06], [box.bottom - 22, box.top + 14]);
  const shape = (inside: (value: number) => boolean) =>
    area<Point>()
      .x((point) => x(point.value))
      .y0(y(0))
      .y1((point) => y(point.count))(curve.filter((point) => inside(point.value))) ?? "";
  const outline = line<Point>()
    .x((point) => x(point.value))
    .y((point) => y(point.count));
  const out = (value: number) => (lsl != null && value < lsl) || (usl != null && value > usl);
  const fence = (value: number, words: string, share: number | null | undefined, side: 1 | -1) => (
    <g key={words}>
      <path d={`M${x(value)} ${box.top}V${y(0)}`} stroke="var(--ink)" strokeWidth="2" />
      <text x={x(value)} y={box.top - 5} fontSize="12" fontWeight="600" textAnchor="middle" fill="var(--ink)">
        {words} {String(value)}
      </text>
      <text
        x={x(value) + 8 * side}
        y={box.top + 16}
        fontSize="12.5"
        textAnchor={side > 0 ? "start" : "end"}
        fill="var(--clay)"
      >
        {share == null ? "" : shareWords(share)}
      </text>
    </g>
  );
  return (
    <g>
      <path d={shape((value) => !out(value))} fill="var(--slate)" fillOpacity="0.16" />
      <path d={shape((value) => lsl != null && value <= lsl)} fill="var(--clay)" fillOpacity="0.75" />
      <path d={shape((value) => usl != null && value >= usl)} fill="var(--clay)" fillOpacity="0.75" />
      <path d={outline(curve) ?? ""} fill="none" stroke="var(--slate)" strokeWidth="2" />
      <path d={`M${box.left} ${y(0)}H${box.right}`} stroke="var(--hairline)" strokeWidth="1.5" />
      <path d={`M${x(normal.mean)} ${y(1)}V${y(0)}`} stroke="var(--moss)" strokeWidth="1.6" />
      <text x={x(normal.mean)} y={y(1) - 6} fontSize="12" textAnchor="middle" fill="var(--moss)">
        mean {write.bareComputed(normal.mean)}
      </text>
      {lsl != null && fence(lsl, "LSL", normal.below, -1)}
      {usl != null && fence(usl, "USL", normal.above, 1)}
      {x.ticks(6).map((tick) => (
        <text key={tick} x={x(tick)} y={box.bottom - 4} fontSize="12" textAnchor="middle" fill="var(--ink-soft)">
          {x.tickFormat(6)(tick)}
        </text>
      ))}
    </g>
  );
}
