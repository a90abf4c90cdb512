import { scaleLinear } from "d3-scale";
import type { KeyboardEvent, RefObject } from "react";
import type { Schema } from "../../api/client";
import { grouped, writerOf } from "../../lib/format";
import { type Box, type PanelLayout, stepPath, steps, valueScale } from "../../marks/panel-layout";
import { Axis, Dots, ringRadius, ValueLine } from "../../marks/panel-marks";
import { Sheet } from "../../marks/sheet";

type Candidate = Schema["CandidateNumbers"];

type Props = {
  lineUp: Schema["LineUpNumbers"];
  size: { width: number; height: number };
  view: { first: number; last: number };
  caption: string;
  onTake: (chart: Candidate["chart"]) => void;
  figure: RefObject<SVGSVGElement | null>;
};

const TOP = 124;
const CARD_TOP = 40;
const FOOT = 92;
const LEFT = 58;
const GAP = 18;

/** One count as three charts on one scale; choosing one changes the statement. */
export function LineUp({ lineUp, size, view, caption, onTake, figure }: Props) {
  const { candidates } = lineUp;
  const writer = writerOf((candidates[0] as Candidate).panel.writer);
  const wide = (size.width - LEFT - 20 - GAP * (candidates.length - 1)) / candidates.length;
  const box: Box = { left: LEFT, right: size.width - 20, top: TOP, bottom: Math.max(TOP + 80, size.height - FOOT) };
  const y = valueScale(lineUp.span, [], box, false);
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`Line-up of ${candidates.length} charts. ${lineUp.verdict.sentence}`}
      reached
    >
      <Axis layout={{ box, y }} writer={writer} />
      <text x={LEFT - 9} y={TOP - 14} fontSize="12" textAnchor="end" fill="var(--ink-soft)">
        {writer.unit}
      </text>
      {candidates.map((candidate, index) => (
        <Card
          key={candidate.chart}
          candidate={candidate}
          believed={candidate.chart === lineUp.believe}
          left={LEFT + 10 + index * (wide + GAP)}
          wide={wide - 10}
          box={box}
          y={y}
          view={view}
          onTake={() => onTake(candidate.chart)}
        />
      ))}
      <text x={LEFT + 18} y={size.height - 16} fontSize="13" fill="var(--ink-soft)">
        {caption}
      </text>
    </Sheet>
  );
}

type CardProps = {
  candidate: Candidate;
  believed: boolean;
  left: number;
  wide: number;
  box: Box;
  y: PanelLayout["y"];
  view: { first: number; last: number };
  onTake: () => void;
};

function Card({ candidate, believed, left, wide, box, y, view, onTake }: CardProps) {
  const { panel, title, rests_on, flagged, chosen } = candidate;
  const inner = { ...box, left: left + 10, right: left + wide - 10 };
  const x = scaleLinear([view.first - 0.5, Math.max(view.last, view.first + 1) + 0.5], [inner.left, inner.right]);
  const layout: PanelLayout = { index: 0, numbers: panel, box: inner, x, y, fences: [], brackets: [] };
  const all = steps(layout);
  const beyond = panel.signals.filter((signal) => signal.pattern === "beyond-limits");
  const ringed = panel.points.filter((point) => beyond.some((s) => point.i >= s.first && point.i <= s.last));
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    onTake();
  };
  const count = `${grouped(flagged)} of ${grouped(panel.points.length)} flagged`;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${title}, ${rests_on}: ${count}${believed ? ", the one to believe" : ""}`}
      cursor="pointer"
      onClick={onTake}
      onKeyDown={onKeyDown}
    >
      <rect
        x={left}
        y={CARD_TOP}
        width={wide}
        height={box.bottom + 50 - CARD_TOP}
        rx="10"
        fill={chosen ? "var(--tint)" : "transparent"}
        stroke={chosen ? "var(--moss)" : "var(--hairline)"}
        strokeWidth={chosen ? 1.8 : 1}
      />
      <text x={left + 12} y={CARD_TOP + 26} fontSize="15" fontWeight="600" fill="var(--ink)">
        {title}
      </text>
      <Wrapped text={rests_on} x={left + 12} y={CARD_TOP + 46} wide={wide - 20} />
      {believed && (
        <text x={left + wide - 12} y={CARD_TOP + 26} fontSize="13" fontWeight="600" textAnchor="end" fill="var(--moss)">
          believe this one
        </text>
      )}
      <g fill="none">
        <path d={stepPath(all, y, (at) => at.center)} stroke="var(--moss)" strokeWidth="1.6" />
        <path d={stepPath(all, y, (at) => at.ucl)} stroke="var(--ochre)" strokeWidth="1.4" />
        <path d={stepPath(all, y, (at) => (at.lcl === 0 ? null : at.lcl))} stroke="var(--ochre)" strokeWidth="1.4" />
      </g>
      <ValueLine layout={layout} of={(point) => point.value ?? null} />
      <Dots layout={layout} of={(point) => point.value ?? null} />
      {ringed.map((point) => (
        <circle
          key={point.i}
          cx={x(point.i)}
          cy={y(point.value ?? 0)}
          r={ringRadius(panel.points.length) - 1}
          fill="none"
          stroke="var(--plum)"
          strokeWidth="2"
        />
      ))}
      <text
        x={left + 12}
        y={box.bottom + 34}
        fontSize="14"
        fontWeight="600"
        fill={flagged > 0 ? "var(--plum)" : "var(--ink)"}
      >
        {count}
      </text>
    </g>
  );
}

/** Up to two short lines of small words. */
function Wrapped({ text, x, y, wide }: { text: string; x: number; y: number; wide: number }) {
  const most = Math.floor(wide / 6.4);
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    const last = lines.at(-1);
    if (last === undefined || last.length + word.length + 1 > most) lines.push(word);
    else lines[lines.length - 1] = `${last} ${word}`;
  }
  return (
    <text fontSize="12.5" fill="var(--ink-soft)">
      {lines.map((line, index) => (
        <tspan key={line} x={x} y={y + index * 16}>
          {line}
        </tspan>
      ))}
    </text>
  );
}
