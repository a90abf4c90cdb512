import { scaleLinear } from "d3-scale";
import type { ValueFormat } from "../../lib/format";
import type { Box } from "../panel-layout";
import { SeriesMark } from "../series-mark";
import { Heading } from "../sheet";
import { type Numbers, OPERATORS_DRAWN, ROWS, type Staircase } from "./layout";

type Props = { numbers: Numbers; layout: Staircase; writer: ValueFormat };

/** Bias and consistency of each operator against their decision limits. */
export function Operators({ numbers, layout: { strip }, writer }: Props) {
  const half = (strip.right - strip.left) / 2;
  const of = numbers.operators.slice(0, OPERATORS_DRAWN);
  const rows = (of_: (place: number) => { value: number | null | undefined; out: boolean; words: string }) =>
    of.map((one, place) => ({ label: one.label, ...of_(place) }));
  return (
    <g>
      <path d={`M${strip.left} ${strip.top}H${strip.right}`} stroke="var(--hairline)" />
      <Rows
        title="Bias of each operator"
        box={{ ...strip, right: strip.left + half - 40 }}
        limits={numbers.bias_limits}
        centre={0}
        rows={rows((place) => {
          const one = numbers.operators[place];
          return { value: one?.bias, out: one?.off ?? false, words: one ? writer.signed(one.bias) : "" };
        })}
      />
      <Rows
        title="Consistency (sd within parts)"
        box={{ ...strip, left: strip.left + half }}
        limits={numbers.sd_limits}
        centre={null}
        rows={rows((place) => {
          const one = numbers.operators[place];
          return {
            value: one?.sd,
            out: one?.inconsistent ?? false,
            words: one?.sd == null ? "" : writer.computed(one.sd),
          };
        })}
      />
      {numbers.operators.length > OPERATORS_DRAWN && (
        <text x={strip.right} y={strip.bottom} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
          the first {OPERATORS_DRAWN} operators; the ledger has all
        </text>
      )}
    </g>
  );
}

type Row = { label: string; value: number | null | undefined; out: boolean; words: string };
type RowsProps = { title: string; box: Box; limits: number[] | null | undefined; centre: number | null; rows: Row[] };

function Rows({ title, box, limits, centre, rows }: RowsProps) {
  const [low, high] = limits ?? [];
  const values = rows.flatMap(({ value }) => (value == null ? [] : [value]));
  const ends = [...values, ...(limits ?? []), ...(centre === null ? [] : [centre])];
  const [first, last] = [Math.min(...ends), Math.max(...ends)];
  const room = last - first || Math.abs(last) || 1;
  const x = scaleLinear([first - 0.15 * room, last + 0.15 * room], [box.left + 92, box.right - 70]);
  const at = (place: number) => box.top + ROWS.first + ROWS.apart * place;
  const [above, below] = [box.top + 31, at(rows.length - 1) + 12];
  return (
    <g>
      <Heading x={box.left} y={box.top + 20}>
        {title}
      </Heading>
      {low !== undefined && high !== undefined && (
        <>
          <rect
            x={x(low)}
            width={x(high) - x(low)}
            y={above}
            height={below - above}
            fill="var(--ochre)"
            fillOpacity="0.09"
          />
          <path
            d={`M${x(low)} ${above}V${below}M${x(high)} ${above}V${below}`}
            stroke="var(--ochre)"
            strokeWidth="1.4"
            strokeDasharray="5 3"
          />
        </>
      )}
      {centre !== null && values.length > 0 && (
        <path d={`M${x(centre)} ${above}V${below}`} stroke="var(--moss)" strokeWidth="1.6" />
      )}
      {rows.map(({ label, value, out, words }, place) => (
        <g key={label}>
          <text x={box.left} y={at(place) + 4} fontSize="12.5" fill="var(--ink)">
            {label.length > 13 ? `${label.slice(0, 12)}…` : label}
          </text>
          {value != null && (
            <>
              <SeriesMark x={x(value)} y={at(place)} series={place} />
              {out && <circle cx={x(value)} cy={at(place)} r="8" fill="none" stroke="var(--plum)" strokeWidth="2" />}
              <text
                x={box.right - 62}
                y={at(place) + 4}
                fontSize="12"
                fontWeight={out ? 600 : 400}
                fill={out ? "var(--plum)" : "var(--ink-soft)"}
              >
                {words}
              </text>
            </>
          )}
        </g>
      ))}
    </g>
  );
}
