import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";

type Props = { values: (number | null)[]; signals: number[]; centre?: number | null; label: string };

const WIDTH = 252;
const HEIGHT = 46;
const PAD = 7;

/** The newest values in order, the centre, rings where a signal lies. */
export function SparkLine({ values, signals, centre, label }: Props) {
  const present = values.filter((value): value is number => value != null);
  if (present.length < 2) return <p className="text-[12px] text-ink-soft">Too few values to draw.</p>;
  const x = scaleLinear([0, values.length - 1], [PAD, WIDTH - PAD]);
  const y = scaleLinear([Math.min(...present), Math.max(...present)], [HEIGHT - PAD, PAD]);
  const draw = line<number | null>()
    .defined((value) => value != null)
    .x((_, index) => x(index))
    .y((value) => y(value ?? 0));
  const last = values.findLastIndex((value) => value != null);
  const height = (index: number) => y(values[index] ?? 0);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" role="img" aria-label={label}>
      {centre != null && <path d={`M0 ${clampTo(y(centre))}H${WIDTH}`} stroke="var(--moss)" strokeOpacity="0.55" />}
      <path d={draw(values) ?? ""} fill="none" stroke="var(--slate)" strokeWidth="1.4" />
      {signals
        .filter((index) => values[index] != null)
        .map((index) => (
          <circle
            key={index}
            cx={x(index)}
            cy={height(index)}
            r="4.5"
            fill="none"
            stroke="var(--plum)"
            strokeWidth="1.6"
          />
        ))}
      <circle cx={x(last)} cy={height(last)} r="3" fill="var(--slate)" />
    </svg>
  );
}

const clampTo = (y: number) => Math.max(1, Math.min(HEIGHT - 1, y));
