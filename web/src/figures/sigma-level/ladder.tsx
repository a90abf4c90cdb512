import { scaleLinear } from "d3-scale";
import { fixed } from "../../lib/format";
import type { Box } from "../../marks/panel-layout";
import { Heading } from "../../marks/sheet";
import { type Numbers, rate } from "./layout";

/** Sigma levels as rungs with what each means in a million, and where this one stands with its interval. */
export function Ladder({ numbers, box }: { numbers: Numbers; box: Box }) {
  const rungs = numbers.ladder;
  const [low, high] = [rungs[0]?.level ?? 1, rungs.at(-1)?.level ?? 7];
  const y = scaleLinear([Math.min(low, numbers.sigma_level ?? low) - 0.4, high + 0.4], [box.bottom, box.top]);
  const inside = (level: number) => Math.max(box.top, Math.min(box.bottom, y(level)));
  const { sigma_level: level, goal } = numbers;
  const [worst, best] = numbers.sigma_level_ci95 ?? [level, level];
  const middle = (box.left + box.right) / 2;
  return (
    <g>
      <Heading x={box.left - 40} y={26}>
        Sigma level
      </Heading>
      <text x={box.right + 14} y="26" fontSize="13" fill="var(--ink-soft)">
        in a million
      </text>
      {[box.left, box.right].map((x) => (
        <path key={x} d={`M${x} ${box.top}V${box.bottom}`} stroke="var(--hairline)" strokeWidth="3" />
      ))}
      {rungs.map((rung) => (
        <g key={rung.level} fontSize="12.5">
          <path d={`M${box.left} ${y(rung.level)}H${box.right}`} stroke="var(--hairline)" strokeWidth="3" />
          <text x={box.left - 14} y={y(rung.level) + 4} textAnchor="end" fill="var(--ink)" fontWeight="600">
            {rung.level}
          </text>
          <text x={box.right + 14} y={y(rung.level) + 4} fill="var(--ink-soft)">
            {rate(rung.dpmo)}
          </text>
        </g>
      ))}
      {goal != null && (
        <g stroke="var(--moss)" fill="var(--moss)">
          <path d={`M${box.left - 8} ${inside(goal)}H${box.right + 8}`} strokeWidth="2" strokeDasharray="6 4" />
          <text x={box.right + 12} y={inside(goal) - 6} fontSize="12" stroke="none">
            asked for
          </text>
        </g>
      )}
      {level != null && (
        <g data-testid="level">
          <path
            d={`M${middle} ${inside(worst ?? y.domain()[0] ?? 0)}V${inside(best ?? high + 0.4)}`}
            stroke="var(--slate-mid)"
            strokeWidth="9"
            strokeLinecap="round"
          />
          {numbers.z != null && numbers.shift > 0 && (
            <path
              d={`M${middle - 15} ${inside(numbers.z)}h30`}
              stroke="var(--ink-soft)"
              strokeWidth="2"
              strokeDasharray="3 3"
            />
          )}
          <path
            d={`M${middle} ${inside(level) - 10}l10 10l-10 10l-10 -10z`}
            fill="var(--slate)"
            stroke="var(--sheet)"
            strokeWidth="2"
          />
          <text x={middle + 16} y={inside(level) + 6} fontSize="17" fontWeight="700" fill="var(--ink)">
            {fixed(level, 2)}
          </text>
          {numbers.z != null && numbers.shift > 0 && (
            <text x={middle + 19} y={inside(numbers.z) + 4} fontSize="12" fill="var(--ink-soft)">
              z {fixed(numbers.z, 2)}
            </text>
          )}
        </g>
      )}
    </g>
  );
}
