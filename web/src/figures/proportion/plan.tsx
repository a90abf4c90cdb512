import type { RefObject } from "react";
import { grouped, percent } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { type Planned, placePlan } from "./layout";

type Props = {
  planned: Planned;
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
};

const WORDS = {
  margin: { title: "Margin that a number of pieces reaches", goal: "margin wanted" },
  power: { title: "Chance to find the difference", goal: "chance wanted" },
  confidence: { title: "Confidence that a number of passes gives", goal: "confidence wanted" },
};

/** What each number of pieces reaches, with what is wanted as a fence and the number that reaches it. */
export function PlanCurve({ planned, size, figure }: Props) {
  const { x, y, box, path } = placePlan(planned, size.width, size.height);
  const { title, goal } = WORDS[planned.wanted];
  const at = x(planned.inspect);
  const ticks = x.ticks(6).filter((tick, place, all) => place === 0 || x(tick) - x(all[place - 1] ?? 0) > 34);
  const near = at > box.right - 120;
  return (
    <Sheet figure={figure} size={size} label={`${title}: ${grouped(planned.inspect)} pieces reach it.`}>
      <Heading x={16} y={28}>
        {title}
      </Heading>
      <g fontSize="12" fill="var(--ink-soft)">
        {y.ticks(5).map((tick) => (
          <g key={tick}>
            <path d={`M${box.left} ${y(tick)}H${box.right}`} stroke="var(--hairline)" />
            <text x={box.left - 8} y={y(tick) + 4} textAnchor="end">
              {percent(tick)}
            </text>
          </g>
        ))}
        {ticks.map((tick) => (
          <text key={tick} x={x(tick)} y={box.bottom + 20} textAnchor="middle">
            {grouped(tick)}
          </text>
        ))}
        <text x={(box.left + box.right) / 2} y={box.bottom + 42} textAnchor="middle">
          pieces inspected
        </text>
      </g>
      <path
        d={`M${box.left} ${y(planned.goal)}H${box.right}`}
        stroke="var(--ochre)"
        strokeWidth="2"
        strokeDasharray="6 4"
      />
      <text x={box.left + 8} y={y(planned.goal) - 7} fontSize="12" fill="var(--ink)">
        {goal}: {percent(planned.goal)}
      </text>
      <path d={path} fill="none" stroke="var(--slate)" strokeWidth="2.4" />
      <path d={`M${at} ${box.top}V${box.bottom}`} stroke="var(--ink)" strokeWidth="2" />
      <circle cx={at} cy={y(planned.reached)} r="6.5" fill="var(--slate)" />
      <text
        x={at + (near ? -8 : 8)}
        y={box.top + 4}
        textAnchor={near ? "end" : "start"}
        fontSize="13.5"
        fontWeight="600"
        fill="var(--ink)"
      >
        {grouped(planned.inspect)} pieces
      </text>
    </Sheet>
  );
}
