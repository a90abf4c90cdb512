import type { ValueFormat } from "../lib/format";
import { type PanelLayout, type Step, spreadLabels, stepPath, steps } from "./panel-layout";

/** A lower limit of zero under what can never be negative is a floor, which no value could pass. */
const isFloor = (layout: PanelLayout, lcl: number | null | undefined) => lcl === 0 && layout.numbers.never_negative;

/** The region beyond the control limits. */
export function Wash({ layout }: { layout: PanelLayout }) {
  const { box, y } = layout;
  const inside = (value: number) => Math.max(box.top, Math.min(box.bottom, y(value)));
  const area = (all: Step[], edge: number, value: (step: Step) => number | null | undefined) =>
    all
      .flatMap((step) => {
        const at = value(step);
        return at == null ? [] : [`M${step.from} ${edge}V${inside(at)}H${step.to}V${edge}z`];
      })
      .join("");
  const all = steps(layout);
  return (
    <g fill="var(--wash)">
      <path d={area(all, box.top, (step) => step.point.ucl)} />
      <path d={area(all, box.bottom, (step) => step.point.lcl)} />
    </g>
  );
}

/** Centre and control limits, and between phases a hairline with the name of the phase. */
export function LimitLines({ layout }: { layout: PanelLayout }) {
  const { box, x, y, numbers } = layout;
  const all = steps(layout);
  const [low = 0, high = 0] = x.domain();
  const phases = numbers.phases.filter((phase) => phase.last >= low && phase.first <= high);
  const lcl = (step: Step["point"]) => (isFloor(layout, step.lcl) ? null : step.lcl);
  return (
    <g fill="none">
      <path d={stepPath(all, y, (at) => at.center)} stroke="var(--moss)" strokeWidth="1.7" />
      {[stepPath(all, y, (at) => at.ucl), stepPath(all, y, lcl)].map((path) => (
        <path key={path} d={path} stroke="var(--ochre)" strokeWidth="1.5" strokeDasharray="12 5" />
      ))}
      {phases.map((phase, index) => {
        const from = Math.max(box.left, x(phase.first - 0.5));
        return (
          <g key={phase.first}>
            {index > 0 && (
              <path d={`M${from} ${box.top - 6}V${box.bottom}`} stroke="var(--ink-soft)" strokeWidth="0.8" />
            )}
            {phase.label && layout.index === 0 && (
              <text
                x={from + (index > 0 ? 12 : 5)}
                y={box.top + 13}
                fontSize="12"
                fontWeight="600"
                fill="var(--ink-soft)"
                stroke="none"
              >
                {phase.label}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** Lines of 1 and 2 sd about the centre. */
export function Zones({ layout }: { layout: PanelLayout }) {
  const all = steps(layout);
  const { box, y } = layout;
  const last = all.at(-1)?.point;
  return (
    <g stroke="var(--ochre)" strokeOpacity="0.55" strokeWidth="1" fill="none" data-testid="zones">
      {[-2, -1, 1, 2].map((z) => {
        const at = (point: Step["point"]) =>
          point.center == null || point.sigma == null ? null : point.center + z * point.sigma;
        const end = last && at(last);
        return (
          <g key={z}>
            <path d={stepPath(all, y, at)} strokeDasharray="2 4" />
            {end != null && (
              <text x={box.right - 4} y={y(end) - 3} textAnchor="end" fontSize="11" fill="var(--ochre)" stroke="none">
                {z > 0 ? "+" : "−"}
                {Math.abs(z)} sd
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** Names and values of the newest lines in sight, at the right end. */
export function EndLabels({ layout, writer }: { layout: PanelLayout; writer: ValueFormat }) {
  const { box, y } = layout;
  const last = steps(layout).at(-1)?.point;
  const labels = [
    { words: "UCL", value: last?.ucl, colour: "var(--ochre)" },
    { words: "CL", value: last?.center, colour: "var(--moss)" },
    { words: "LCL", value: isFloor(layout, last?.lcl) ? null : last?.lcl, colour: "var(--ochre)" },
  ].flatMap(({ words, value, colour }) => (value == null ? [] : [{ words, value, colour }]));
  const places = spreadLabels(
    labels.map((label) => y(label.value)),
    31,
    box,
  );
  return labels.map(({ words, value, colour }, index) => (
    <text key={words} x={box.right + 9} y={(places[index] ?? 0) - 2} fontSize="12" fill={colour}>
      {words}
      <tspan x={box.right + 9} dy="14" fontWeight="600">
        {writer.bareComputed(value)}
      </tspan>
    </text>
  ));
}
