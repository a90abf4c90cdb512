import { scaleLinear } from "d3-scale";
import type { Schema } from "../../api/client";
import { fixed } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import type { DrawingProps } from "../../study/figure";

type Component = Schema["GaugeComponent"];

/** What the whole is made of, with its colour. */
const MADE_OF = [
  { source: "repeatability", words: "repeatability", colour: "--slate" },
  { source: "operator", words: "operators", colour: "--ochre" },
  { source: "operator-part", words: "part × operator", colour: "--plum" },
  { source: "part", words: "parts", colour: "--moss" },
] as const;

/** What sds are compared with; their shares do not add up, so each stands by itself. */
const BASES: { words: string; of: (one: Component) => number | null | undefined }[] = [
  { words: "% study variation", of: (one) => one.pct_study },
  { words: "% tolerance", of: (one) => one.pct_tolerance },
  { words: "% process", of: (one) => one.pct_process },
];
const SAID = [{ source: "total-gauge", words: "gauge", colour: "--ink" }, ...MADE_OF];
const ROW = 21;

/** Contributions as one stacked line that adds up to all; under it the sds as bars, once for each basis. */
export function Components({ numbers, name, size, figure }: DrawingProps<"gauge-crossed">) {
  const components = numbers.anova?.components ?? [];
  const of = (source: string) => components.find((one) => one.source === source);
  const box = { left: 40, right: size.width - 40, top: 62 };
  const x = scaleLinear([0, 1], [box.left, box.right]);
  const bases = BASES.filter(({ of }) => components.some((one) => of(one) != null));
  const parts = MADE_OF.map((one) => ({ ...one, share: of(one.source)?.contribution ?? 0 }));
  let before = 0;
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`Components of the variation of ${name}: ${parts.map(({ words, share }) => `${words} ${fixed(100 * share, 1)} %`).join(", ")} of the variance.`}
    >
      <Heading x={box.left} y={36}>
        Contribution to the variance, adding up to all
      </Heading>
      {parts.map(({ source, words, colour, share }) => {
        const start = before;
        before += share;
        const wide = x(before) - x(start);
        return (
          <g key={source}>
            <rect
              x={x(start)}
              y={box.top - 12}
              width={Math.max(0, wide)}
              height="30"
              fill={`var(${colour})`}
              fillOpacity="0.8"
            />
            {wide > 90 && (
              <text x={x(start) + 8} y={box.top + 8} fontSize="12.5" fontWeight="600" fill="var(--sheet)">
                {words} {fixed(100 * share, 1)} %
              </text>
            )}
          </g>
        );
      })}
      <Legend parts={parts.filter(({ share }) => x(share) - x(0) <= 90)} x={box.left} y={box.top + 40} />
      {bases.map(({ words, of: share }, row) => (
        <Basis
          key={words}
          title={`${words}, each sd by itself`}
          top={box.top + 84 + (ROW * (SAID.length + 1) + 26) * row}
          left={box.left}
          right={box.right}
          marks={SAID.flatMap(({ source, words, colour }) => {
            const one = of(source);
            const at = one && share(one);
            return at == null ? [] : [{ words, colour, at }];
          })}
        />
      ))}
    </Sheet>
  );
}

function Legend({ parts, x, y }: { parts: { words: string; colour: string; share: number }[]; x: number; y: number }) {
  return (
    <g fontSize="12" fill="var(--ink-soft)">
      {parts.map(({ words, colour, share }, place) => (
        <g key={words}>
          <rect x={x + 180 * place} y={y - 9} width="10" height="10" rx="2" fill={`var(${colour})`} />
          <text x={x + 180 * place + 16} y={y}>
            {words} {fixed(100 * share, 1)} %
          </text>
        </g>
      ))}
    </g>
  );
}

type BasisProps = {
  title: string;
  top: number;
  left: number;
  right: number;
  marks: { words: string; colour: string; at: number }[];
};

/** Shares as bars from nothing, over the bands of a good and of a usable gauge. */
function Basis({ title, top, left, right, marks }: BasisProps) {
  const start = left + 120;
  const most = Math.max(1, ...marks.map(({ at }) => at));
  const x = scaleLinear([0, most], [start, right - 64]);
  const bottom = top + 14 + ROW * marks.length;
  return (
    <g>
      <Heading x={left} y={top}>
        {title}
      </Heading>
      <rect
        x={start}
        y={top + 12}
        width={x(0.1) - start}
        height={bottom - top - 12}
        fill="var(--moss)"
        fillOpacity="0.12"
      />
      <rect
        x={x(0.1)}
        y={top + 12}
        width={x(0.3) - x(0.1)}
        height={bottom - top - 12}
        fill="var(--ochre)"
        fillOpacity="0.12"
      />
      {marks.map(({ words, colour, at }, place) => {
        const y = top + 14 + ROW * (place + 0.5);
        return (
          <g key={words}>
            <text x={left} y={y + 4} fontSize="12.5" fill="var(--ink)">
              {words}
            </text>
            <rect
              x={start}
              y={y - 6}
              width={Math.max(1, x(at) - start)}
              height="12"
              rx="2"
              fill={`var(${colour})`}
              fillOpacity="0.85"
            />
            <text x={x(at) + 7} y={y + 4} fontSize="12.5" fontWeight="600" fill="var(--ink)">
              {fixed(100 * at, 1)} %
            </text>
          </g>
        );
      })}
      {[0.1, 0.3, 1].map((tick) => (
        <text key={tick} x={x(tick)} y={bottom + 14} textAnchor="middle" fontSize="11.5" fill="var(--ink-soft)">
          {fixed(100 * tick, 0)} %
        </text>
      ))}
    </g>
  );
}
