import { scaleLinear } from "d3-scale";
import type { RefObject } from "react";
import { fixed, writerOf } from "../../lib/format";
import { InOrder } from "../../marks/in-order";
import { valueScale } from "../../marks/panel-layout";
import { Axis } from "../../marks/panel-marks";
import { Heading, Sheet } from "../../marks/sheet";
import { Ladder } from "./ladder";
import { type Numbers, placePanes, rate, STRIP } from "./layout";
import { NormalCurve } from "./normal-curve";
import { Squares } from "./squares";
import { Steps } from "./steps";

type Props = {
  numbers: Numbers;
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
};

/** What is wrong as a picture, its level on the ladder, and the numbers. */
export function SigmaLevel({ numbers, size, figure }: Props) {
  const { picture, ladder } = placePanes(size.width, size.height);
  const panel = numbers.chart?.panels[0];
  return (
    <Sheet figure={figure} size={size} label={summary(numbers)}>
      <Heading x={picture.left} y={26}>
        {title(numbers)}
      </Heading>
      {numbers.normal ? (
        <NormalCurve normal={numbers.normal} box={picture} />
      ) : numbers.steps.length > 1 ? (
        <Steps steps={numbers.steps} box={picture} />
      ) : panel && numbers.chart ? (
        <Chart chart={numbers.chart} panel={panel} box={picture} />
      ) : (
        <Squares numbers={numbers} box={picture} />
      )}
      <Ladder numbers={numbers} box={ladder} />
      <Strip numbers={numbers} size={size} />
    </Sheet>
  );
}

function title(numbers: Numbers): string {
  if (numbers.normal) return "What lies beyond the limits";
  if (numbers.steps.length > 1) return "What passes through the steps without a defect";
  if (numbers.chart)
    return numbers.chart.chart === "p" ? "Proportion defective by subgroup" : "Defects per unit by subgroup";
  return "Chances, and those with a defect";
}

type ChartProps = {
  chart: NonNullable<Numbers["chart"]>;
  panel: NonNullable<Numbers["chart"]>["panels"][number];
  box: ReturnType<typeof placePanes>["picture"];
};

/** The samples in order, with their control limits. */
function Chart({ chart, panel, box }: ChartProps) {
  const layout = {
    index: 0,
    numbers: panel,
    box,
    x: scaleLinear([-0.5, Math.max(1, chart.points - 1) + 0.5], [box.left, box.right]),
    y: valueScale(panel.span, [], box, true),
    fences: [],
    brackets: [],
  };
  return (
    <g>
      <Axis layout={layout} writer={writerOf(panel.writer)} />
      <InOrder layout={layout} />
    </g>
  );
}

function Strip({ numbers, size }: { numbers: Numbers; size: Props["size"] }) {
  const percent = (share: number) => `${fixed(100 * share, share > 0.999 && share < 1 ? 4 : 2)} %`;
  const entries: [string, string][] = [];
  const add = (term: string, value: number | null | undefined, write: (value: number) => string) => {
    if (value != null) entries.push([term, write(value)]);
  };
  add("defects a unit", numbers.dpu, (value) => fixed(value, 4));
  add(numbers.normal ? "out in a million" : "in a million chances", numbers.dpmo, rate);
  add("yield", numbers.yield, percent);
  add(
    numbers.steps.length > 1 ? "rolled yield" : "units without a defect",
    numbers.rolled_yield ?? numbers.first_time_yield,
    percent,
  );
  add("z", numbers.z, (value) => fixed(value, 2));
  add(
    numbers.shift > 0 ? `sigma level (z + ${numbers.shift})` : "sigma level (no shift)",
    numbers.sigma_level,
    (value) => fixed(value, 2),
  );
  const left = 24;
  const wide = (size.width - 2 * left) / Math.max(5, entries.length);
  const top = size.height - STRIP;
  return (
    <g>
      <path d={`M${left} ${top}H${size.width - left}`} stroke="var(--hairline)" />
      {entries.map(([term, value], place) => (
        <g key={term} transform={`translate(${left + place * wide},${top})`}>
          <text y="24" fontSize="12.5" fill="var(--ink-soft)">
            {term}
          </text>
          <text y="48" fontSize="18" fontWeight="650" fill="var(--ink)">
            {value}
          </text>
        </g>
      ))}
    </g>
  );
}

function summary(numbers: Numbers): string {
  const level = numbers.sigma_level == null ? "No sigma level" : `Sigma level ${fixed(numbers.sigma_level, 2)}`;
  return `${level} with a shift of ${numbers.shift}: ${rate(numbers.dpmo ?? 0)} in a million.`;
}
