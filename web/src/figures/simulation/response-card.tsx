import { scaleLinear } from "d3-scale";
import { useState } from "react";
import { fixed, writerOf } from "../../lib/format";
import { Dial } from "../../marks/dial";
import { toneColour } from "../../marks/tone";
import { CardButton } from "./card-button";
import { cut } from "./input-card";
import type { ResponseNode } from "./layout";

type Props = { node: ResponseNode; picked: boolean; onPick: () => void };

/** A response: its formula, what comes out of all draws, and its indices. */
export function ResponseCard({ node: { response, box }, picked, onPick }: Props) {
  const { width, height } = box;
  const roomy = height >= 150;
  const withDial = response.out != null && width > 330 && height > 250;
  const writer = writerOf(response.writer);
  const letters = Math.max(10, Math.floor((width - 44) / 8.2));
  const facts = factsOf(response);
  // As many beside each other as can be told apart.
  const beside = Math.max(2, Math.min(facts.length, Math.floor((width - 24) / 84)));
  const rows = Math.ceil(facts.length / beside);
  const foot = roomy ? 6 + 40 * rows : 0;
  const plot = {
    left: 16,
    right: width - 16,
    top: roomy ? (withDial ? 128 : 88) : 26,
    bottom: height - foot - (roomy ? 24 : 6),
  };
  return (
    <g transform={`translate(${box.left},${box.top})`}>
      <rect
        width={width}
        height={height}
        rx="7"
        fill="var(--sheet)"
        stroke={picked ? "var(--moss)" : "var(--hairline)"}
        strokeWidth={picked ? 2 : 1}
      />
      <CardButton label={`Response ${response.name} = ${response.notation.line}`} pressed={picked} onPress={onPick}>
        <rect width={width} height={roomy ? 58 : 24} rx="7" fill="transparent" />
        <text x="16" y={roomy ? 24 : 17} fontSize="14" fontWeight="600" fill="var(--ink)">
          {cut(response.name, Math.floor(letters * 0.8))}
          {roomy && response.part && (
            <tspan fontSize="12" fontWeight="400" fill="var(--ink-soft)">
              {` · ${response.part}`}
            </tspan>
          )}
        </text>
        {roomy && (
          <text x="16" y="46" fontSize="15" className="font-serif" fill="var(--ink)">
            = {cut(response.notation.line, letters)}
          </text>
        )}
        <title>{`${response.name} = ${response.notation.line}`}</title>
      </CardButton>
      {withDial && (
        <svg x={width - 142} y="60" width="126" height="64" aria-hidden="true">
          <Dial limits={response} dial={response.dial} writer={writer} name={response.name} small />
        </svg>
      )}
      <Bars response={response} plot={plot} words={roomy} />
      {roomy &&
        facts.map(({ term, words, wrong }, index) => {
          const at = 16 + ((index % beside) * (width - 24)) / beside;
          const top = height - foot + 12 + 40 * Math.floor(index / beside);
          return (
            <g key={term}>
              <text x={at} y={top} fontSize="12" fill="var(--ink-soft)">
                {term}
              </text>
              <text x={at} y={top + 18} fontSize="14" fontWeight="600" fill={wrong ?? "var(--ink)"}>
                {words}
              </text>
            </g>
          );
        })}
    </g>
  );
}

type Fact = { term: string; words: string; wrong?: string };

function factsOf(response: ResponseNode["response"]): Fact[] {
  const writer = writerOf(response.writer);
  const number = (value: number | null | undefined) => (value == null ? "none" : writer.computed(value));
  const facts: Fact[] = [
    { term: "mean", words: number(response.mean) },
    { term: "sd", words: number(response.sd) },
  ];
  const wrong = response.tone === "calm" ? undefined : toneColour(response.tone);
  if (response.ppk != null) facts.push({ term: "Ppk", words: fixed(response.ppk, 2), wrong });
  if (response.out != null) {
    const by = response.out.error > 0 ? ` ± ${shareWords(response.out.error).replace(/ (%|ppm)$/, "")}` : "";
    facts.push({
      term: "out, ± by chance",
      words: shareWords(response.out.total).replace(/( %| ppm)?$/, `${by}$1`),
      wrong,
    });
  }
  return facts;
}

/** A share with two digits: "0.41 %", "32 ppm". */
export function shareWords(share: number): string {
  if (share === 0) return "none";
  if (share < 1e-4) return `${Number((share * 1e6).toPrecision(2))} ppm`;
  return `${Number((100 * share).toPrecision(2))} %`;
}

type Plot = { left: number; right: number; top: number; bottom: number };
type BarsProps = { response: ResponseNode["response"]; plot: Plot; words: boolean };

/** The histogram with its fences; what is out is told by colour and by hatching. */
function Bars({ response, plot, words }: BarsProps) {
  const [at, setAt] = useState<number | null>(null);
  const { bars, lsl, target, usl, percentiles } = response;
  const fences = [lsl, usl].filter((fence): fence is number => fence != null);
  const [first, last] = [bars[0]?.from ?? 0, bars.at(-1)?.to ?? 1];
  const span = last - first;
  // A fence far away would leave the bars a sliver.
  const near = fences.filter((fence) => fence > first - 1.5 * span && fence < last + 1.5 * span);
  const low = Math.min(first, ...near.map((fence) => fence - 0.03 * span));
  const high = Math.max(last, ...near.map((fence) => fence + 0.03 * span));
  const x = scaleLinear([low, high], [plot.left, plot.right]);
  const most = Math.max(1, ...bars.map(({ count }) => count));
  const tall = Math.max(1, plot.bottom - plot.top - 18);
  const y = (count: number) => plot.bottom - (count / most) * tall;
  const isOut = (from: number, to: number) => (lsl != null && to <= lsl) || (usl != null && from >= usl);
  const writer = writerOf(response.writer);
  const hatch = (side: "lsl" | "usl", value: number) => {
    const toward = side === "lsl" ? -1 : 1;
    const strokes = [];
    for (let top = plot.top + 14; top < plot.bottom - 4; top += 9)
      strokes.push(`M${x(value)} ${top + 7}l${toward * 7} ${-7}`);
    return strokes.join("");
  };
  const nearest =
    at === null ? undefined : [...percentiles].sort((a, b) => Math.abs(a.value - at) - Math.abs(b.value - at))[0];
  if (bars.length === 0)
    return (
      <text x={plot.left} y={(plot.top + plot.bottom) / 2} fontSize="13" fill="var(--clay)">
        No draw gives a number.
      </text>
    );
  return (
    <g>
      {bars.map(({ from, to, count }) => (
        <rect
          key={from}
          x={x(from) + 0.3}
          width={Math.max(0.6, x(to) - x(from) - 0.7)}
          y={y(count)}
          height={plot.bottom - y(count)}
          fill={isOut(from, to) ? "var(--clay)" : "var(--slate)"}
          fillOpacity="0.85"
        />
      ))}
      <path d={`M${plot.left} ${plot.bottom}H${plot.right}`} stroke="var(--hairline)" />
      {(["lsl", "usl"] as const).map((side) => {
        const value = response[side];
        if (value == null || !near.includes(value)) return null;
        const right = side === "usl";
        const crowded = right && near.length > 1 && x(near[1] ?? 0) - x(near[0] ?? 0) < 150;
        return (
          <g key={side}>
            <path d={hatch(side, value)} stroke="var(--ink)" strokeOpacity="0.3" strokeWidth="0.9" />
            <path d={`M${x(value)} ${plot.top + 6}V${plot.bottom + 4}`} stroke="var(--ink)" strokeWidth="2" />
            {words && (
              <text
                x={x(value) + (right ? 3 : -3)}
                y={plot.top + (crowded ? -12 : 2)}
                fontSize="12"
                fontWeight="600"
                textAnchor={x(value) > (plot.left + plot.right) / 2 ? "end" : "start"}
                fill="var(--ink)"
              >
                {side.toUpperCase()} {String(value).replace("-", "−")} {response.unit}
              </text>
            )}
          </g>
        );
      })}
      {target != null && target > low && target < high && (
        <path d={`M${x(target)} ${plot.bottom + 2}l-4 7h8z`} fill="var(--ink-soft)">
          <title>target {target}</title>
        </path>
      )}
      {words &&
        x.ticks(5).map((tick) => (
          <text key={tick} x={x(tick)} y={plot.bottom + 17} fontSize="12" textAnchor="middle" fill="var(--ink-soft)">
            {x.tickFormat(5)(tick).replace("-", "−")}
          </text>
        ))}
      <rect
        data-export="no"
        x={plot.left}
        y={plot.top + 8}
        width={plot.right - plot.left}
        height={Math.max(1, plot.bottom - plot.top - 8)}
        fill="transparent"
        onPointerMove={(event) => {
          const { left, width } = event.currentTarget.getBoundingClientRect();
          setAt(low + ((event.clientX - left) / width) * (high - low));
        }}
        onPointerLeave={() => setAt(null)}
      />
      {nearest && words && (
        <g data-export="no" pointerEvents="none">
          <path d={`M${x(nearest.value)} ${plot.top + 14}V${plot.bottom}`} stroke="var(--moss)" strokeDasharray="3 3" />
          <text x={x(nearest.value)} y={plot.top + 12} fontSize="12" textAnchor="middle" fill="var(--moss)">
            {Number((100 * nearest.share).toPrecision(5))} % below {writer.computed(nearest.value)}
          </text>
        </g>
      )}
    </g>
  );
}
