import { fixed } from "../../lib/format";
import { Heading } from "../../marks/sheet";
import type { Layout, Numbers } from "./layout";

export const percent = (share: number) => `${fixed(100 * share, 0)} %`;

/** A family in words, for the screen reader and the summary. */
export const familyWords = (family: Numbers["families"][number]) => {
  if (family.df <= 0) return `${family.name}: cannot be told`;
  const [low, high] = family.share_ci95 ?? [];
  const likely = low === undefined || high === undefined ? "" : `, likely ${percent(low)} to ${percent(high)}`;
  return `${family.name}: ${percent(family.share)} of the variation${likely}`;
};

/** The colour of the means of a level; what varies within is that of values. */
export const levelColour = (level: number, { factors }: Numbers) =>
  level === factors.length
    ? "var(--slate)"
    : level === factors.length - 1
      ? "var(--moss)"
      : (["var(--ink)", "var(--plum)", "var(--ochre)"][level] ?? "var(--ink)");

type Props = { numbers: Numbers; layout: Layout; lit: number | null };

/** What each family has of the variation, with its interval, and what of it is measuring. */
export function Families({ numbers, layout: { families }, lit }: Props) {
  const { left, right, top, apart } = families;
  const wide = right - left;
  return (
    <g fontSize="13">
      <Heading x={left} y={top - 26}>
        Where the variation is
      </Heading>
      {numbers.families.map((family, place) => {
        const y = top + apart * place;
        const [low, high] = family.share_ci95 ?? [];
        const measured = numbers.measuring?.family === family.name ? numbers.measuring : undefined;
        const on = family.name === numbers.dominant;
        return (
          <g key={family.name} opacity={lit === null || lit === place ? 1 : 0.35}>
            <path d={`M${left} ${y - 4}h10`} stroke={levelColour(place, numbers)} strokeWidth="3.4" />
            <text x={left + 16} y={y} fontWeight={on ? 700 : 500} fill="var(--ink)">
              {family.name.length > 16 ? `${family.name.slice(0, 15)}…` : family.name}
            </text>
            <text x={right} y={y} textAnchor="end" fontWeight={on ? 700 : 500} fill="var(--ink)">
              {family.df > 0 ? percent(family.share) : "not told"}
            </text>
            <rect x={left} y={y + 7} width={wide} height="11" rx="3" fill="var(--hairline)" fillOpacity="0.6" />
            <rect
              x={left}
              y={y + 7}
              width={wide * family.share}
              height="11"
              rx="3"
              fill={on ? "var(--moss)" : "var(--slate-mid)"}
            />
            {measured && (
              <rect
                x={left}
                y={y + 7}
                width={wide * family.share * measured.share}
                height="11"
                rx="3"
                fill="var(--ochre)"
              />
            )}
            {low !== undefined && high !== undefined && (
              <path
                d={`M${left + wide * low} ${y + 23}H${left + wide * high}m0 -3v6M${left + wide * low} ${y + 20}v6`}
                stroke="var(--ink)"
                strokeWidth="1.3"
              />
            )}
            {measured && (
              <text x={left} y={y + 39} fontSize="11.5" fill="var(--ink-soft)">
                {percent(measured.share)} of it measuring
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
