import { type RefObject, useMemo } from "react";
import { counted, fixed, writerOf } from "../../lib/format";
import { Axis } from "../../marks/panel-marks";
import { Heading, Sheet } from "../../marks/sheet";
import type { Size, Stretch } from "../../study/figure";
import { type Numbers, placeRun } from "./layout";

type Props = {
  numbers: Numbers;
  name: string;
  size: Size;
  figure: RefObject<SVGSVGElement | null>;
  view: Stretch;
};

/** The readings in order around the known value, in the band that the gauge may take; beside them its spread in that band. */
export function Run({ numbers, name, size, figure, view }: Props) {
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const { box, x, y, allowed, ruler } = placeRun(numbers, size.width, size.height, view);
  const { reference, mean, readings, sd, multiplier, bias_ci95: interval } = numbers;
  const half = ((sd ?? 0) * multiplier) / 2;
  const words = `${counted(numbers.n, "reading", "readings")} of ${name} of one piece known to be ${writer.value(reference)}; their mean is ${writer.computed(mean)}.`;
  const every = Math.max(1, Math.ceil((view.last - view.first + 1) / 10));
  const ticks = Array.from({ length: 11 }, (_, k) => view.first + k * every).filter((place) => place <= view.last);
  const apart = Math.abs(y(mean) - y(reference)) > 15;
  return (
    <Sheet figure={figure} size={size} label={words}>
      <Heading x={box.left} y={28}>
        Readings of one piece in order{writer.unit && ` (${writer.unit})`}
      </Heading>
      {allowed !== null && (
        <g>
          <rect
            x={box.left}
            width={ruler.right - box.left}
            y={y(reference + allowed)}
            height={y(reference - allowed) - y(reference + allowed)}
            fill="var(--moss)"
            fillOpacity="0.07"
          />
          {[1, -1].map((side) => (
            <path
              key={side}
              d={`M${box.left} ${y(reference + side * allowed)}H${ruler.right}`}
              stroke="var(--ink)"
              strokeWidth="1.4"
              strokeDasharray="1.5 3.5"
            />
          ))}
          <text x={box.left + 8} y={y(reference + allowed) + 15} fontSize="12" fill="var(--ink-soft)">
            {fixed(100 * numbers.share, 0)} % of the tolerance
          </text>
        </g>
      )}
      <Axis layout={{ box, y }} writer={writer} />
      <path d={`M${box.left} ${y(reference)}H${ruler.right}`} stroke="var(--ink)" strokeWidth="1.8" />
      <text
        x={box.left + 8}
        y={y(reference) + (apart && mean > reference ? 15 : -6)}
        fontSize="12"
        fontWeight="600"
        fill="var(--ink)"
      >
        reference {writer.value(reference)}
      </text>
      {interval && (
        <rect
          x={box.left}
          width={box.right - box.left}
          y={y(reference + (interval[1] ?? 0))}
          height={Math.max(1, y(reference + (interval[0] ?? 0)) - y(reference + (interval[1] ?? 0)))}
          fill="var(--ochre)"
          fillOpacity="0.18"
        />
      )}
      <path d={`M${box.left} ${y(mean)}H${box.right}`} stroke="var(--ochre)" strokeWidth="1.8" />
      <path
        d={readings.map(({ i, value }, place) => `${place === 0 ? "M" : "L"}${x(i)} ${y(value)}`).join("")}
        fill="none"
        stroke="var(--slate)"
        strokeOpacity="0.6"
      />
      {readings.length <= 260 &&
        readings.map(({ i, value }) => <circle key={i} cx={x(i)} cy={y(value)} r="3.6" fill="var(--slate)" />)}
      {apart && (
        <text
          x={box.right - 6}
          y={y(mean) + (mean > reference ? -6 : 15)}
          textAnchor="end"
          fontSize="12"
          fontWeight="600"
          fill="var(--ink)"
          stroke="var(--sheet)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          mean {writer.computed(mean)}
        </text>
      )}
      {ticks.map((place) => (
        <text key={place} x={x(place)} y={box.bottom + 20} textAnchor="middle" fontSize="12" fill="var(--ink-soft)">
          {place + 1}
        </text>
      ))}
      {half > 0 && (
        <g>
          <rect
            x={ruler.left + 12}
            width="34"
            y={y(mean + half)}
            height={y(mean - half) - y(mean + half)}
            rx="3"
            fill="var(--plum)"
            fillOpacity="0.8"
          />
          <path d={`M${ruler.left + 4} ${y(mean)}h50`} stroke="var(--ochre)" strokeWidth="1.8" />
          <text x={ruler.left + 29} y={y(mean - half) + 18} textAnchor="middle" fontSize="12" fill="var(--ink-soft)">
            {String(multiplier)} sds
          </text>
          {numbers.cgk != null && (
            <text
              x={ruler.left + 29}
              y={y(mean - half) + 37}
              textAnchor="middle"
              fontSize="13"
              fontWeight="600"
              fill="var(--ink)"
            >
              Cgk {fixed(numbers.cgk, 2)}
            </text>
          )}
        </g>
      )}
    </Sheet>
  );
}
