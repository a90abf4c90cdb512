import { scaleLinear, scaleUtc } from "d3-scale";
import type { Schema } from "../../api/client";
import { counted, fixed, shortTime } from "../../lib/format";
import { useSize } from "../../lib/use-size";
import { toneColour } from "../../marks/tone";

type Props = { records: Schema["GaugeRecord"][]; next: string | null; late: boolean };

const HEIGHT = 150;
const BOX = { left: 44, top: 14, bottom: 118 };
/** Up to this share a gauge is good; above the other it cannot be used. */
const BANDS = { good: 0.1, poor: 0.3 };
const time = (day: string) => new Date(`${day}T00:00:00Z`);

/** What the gauge took at each study, in the bands of a good and of a usable one, up to the day of the next study. */
export function OverTime({ records, next, late }: Props) {
  const [room, { width }] = useSize<HTMLDivElement>();
  const known = records.filter((record) => record.share != null).reverse();
  if (known.length === 0) return null;
  const days = [...known.map(({ day }) => day), ...(next ? [next] : [])];
  const [first, last] = [time(days[0] ?? ""), time(days.at(-1) ?? "")];
  const pad = Math.max(1, (last.getTime() - first.getTime()) * 0.05);
  const right = Math.max(BOX.left + 60, width - 24);
  const x = scaleUtc([new Date(first.getTime() - pad), new Date(last.getTime() + pad)], [BOX.left, right]);
  // Days too near each other to be named both: the later is.
  const named = known.filter(({ day }, place) => {
    const after = known[place + 1];
    return !after || x(time(after.day)) - x(time(day)) > 90;
  });
  const most = Math.max(0.4, ...known.map(({ share }) => (share ?? 0) * 1.15));
  const y = scaleLinear([0, most], [BOX.bottom, BOX.top]);
  return (
    <div ref={room} className="mb-3">
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={`The gauge's share at ${counted(known.length, "study", "studies")}, the last ${fixed(100 * (known.at(-1)?.share ?? 0), 1)} %.`}
          className="block"
        >
          <rect
            x={BOX.left}
            width={right - BOX.left}
            y={y(BANDS.good)}
            height={y(0) - y(BANDS.good)}
            fill="var(--moss)"
            fillOpacity="0.12"
          />
          <rect
            x={BOX.left}
            width={right - BOX.left}
            y={y(BANDS.poor)}
            height={y(BANDS.good) - y(BANDS.poor)}
            fill="var(--ochre)"
            fillOpacity="0.12"
          />
          {[0, BANDS.good, BANDS.poor].map((tick) => (
            <text key={tick} x={BOX.left - 7} y={y(tick) + 4} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
              {fixed(100 * tick, 0)} %
            </text>
          ))}
          <path
            d={known
              .map(({ day, share }, place) => `${place === 0 ? "M" : "L"}${x(time(day))} ${y(share ?? 0)}`)
              .join("")}
            fill="none"
            stroke="var(--slate)"
            strokeOpacity="0.6"
          />
          {known.map(({ id, day, share, tone }) => (
            <g key={id}>
              <circle cx={x(time(day))} cy={y(share ?? 0)} r="5" fill={toneColour(tone as Schema["Tone"])} />
              <text
                x={x(time(day))}
                y={y(share ?? 0) - 9}
                textAnchor="middle"
                fontSize="12"
                fontWeight="600"
                fill="var(--ink)"
              >
                {fixed(100 * (share ?? 0), 1)} %
              </text>
            </g>
          ))}
          {named.map(({ id, day }) => (
            <text
              key={id}
              x={Math.max(BOX.left + 34, x(time(day)))}
              y={BOX.bottom + 18}
              textAnchor="middle"
              fontSize="12"
              fill="var(--ink-soft)"
            >
              {shortTime(`${day} 00:00`, true)}
            </text>
          ))}
          {next && (
            <g>
              <path
                d={`M${x(time(next))} ${BOX.top}V${BOX.bottom}`}
                stroke={late ? "var(--clay)" : "var(--ink-soft)"}
                strokeDasharray="4 3"
              />
              <text
                x={x(time(next))}
                y={BOX.bottom + 18}
                textAnchor="middle"
                fontSize="12"
                fill={late ? "var(--clay)" : "var(--ink-soft)"}
              >
                next {shortTime(`${next} 00:00`, true)}
              </text>
            </g>
          )}
        </svg>
      )}
    </div>
  );
}
