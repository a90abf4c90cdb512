import { scaleLinear, scaleLog } from "d3-scale";
import { area } from "d3-shape";
import { type RefObject, useId } from "react";
import type { Schema } from "../../api/client";
import { fixed, grouped, typedNumber } from "../../lib/format";
import { useDraft } from "../../lib/use-draft";
import { Heading, Sheet } from "../../marks/sheet";
import type { Numbers } from "./layout";

type Props = {
  numbers: Numbers;
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
  onWant: (halfWidth: number) => void;
};

const BOX = { left: 64, right: 40, top: 96, bottom: 60 };

const canBeWanted = (text: string) => {
  const value = typedNumber(text);
  return typeof value === "number" && value >= 0.001 && value <= 10;
};

/** How the interval of Ppk narrows with the number of values, and how many a wanted width takes. */
export function Need({ numbers, size, figure, onWant }: Props) {
  const id = useId();
  const need = numbers.need;
  const field = useDraft(String(need?.wanted ?? 0.1), (text) => onWant(Number(typedNumber(text))), {
    fits: canBeWanted,
  });
  if (!need) return null;
  const most = Math.max(10_000, 2 * (need.n ?? 0));
  const curve = need.curve.filter((point) => point.n <= most);
  const x = scaleLog([10, most], [BOX.left, size.width - BOX.right]);
  const low = Math.min(...curve.map((point) => point.low), need.ppk - 3 * need.wanted);
  const high = Math.max(...curve.map((point) => point.high), need.ppk + 3 * need.wanted);
  const y = scaleLinear(
    [Math.max(low, need.ppk - 0.8), Math.min(high, need.ppk + 0.8)],
    [size.height - BOX.bottom, BOX.top],
  );
  const clamp = (value: number) => Math.max(BOX.top, Math.min(size.height - BOX.bottom, y(value)));
  const band = area<Schema["NeedPoint"]>()
    .x((point) => x(point.n))
    .y0((point) => clamp(point.low))
    .y1((point) => clamp(point.high));
  const mark = (n: number, words: string, colour: string, at: number) =>
    n >= 10 &&
    n <= most && (
      <g fill={colour} fontSize="12.5" fontWeight="600">
        <path d={`M${x(n)} ${at + 6}V${size.height - BOX.bottom}`} stroke={colour} strokeWidth="1.5" />
        <text x={x(n)} y={at} textAnchor={x(n) > size.width - 220 ? "end" : "start"}>
          {words}
        </text>
      </g>
    );
  return (
    <div className="relative h-full">
      <Sheet
        figure={figure}
        size={size}
        label={`The interval of Ppk against the number of values. For plus or minus ${need.wanted} it takes ${need.n ?? "very many"}.`}
      >
        <Heading x={BOX.left} y={28}>
          How the interval of Ppk narrows with more values
        </Heading>
        <path d={band(curve) ?? ""} fill="var(--slate)" fillOpacity="0.18" stroke="var(--slate)" />
        <path d={`M${BOX.left} ${y(need.ppk)}H${size.width - BOX.right}`} stroke="var(--moss)" strokeWidth="1.6" />
        {[need.ppk - need.wanted, need.ppk + need.wanted].map((edge) => (
          <path
            key={edge}
            d={`M${BOX.left} ${y(edge)}H${size.width - BOX.right}`}
            stroke="var(--ochre)"
            strokeDasharray="12 5"
          />
        ))}
        {y.ticks(6).map((tick) => (
          <text key={tick} x={BOX.left - 9} y={y(tick) + 4} fontSize="12" textAnchor="end" fill="var(--ink-soft)">
            {fixed(tick, 1)}
          </text>
        ))}
        {[10, 30, 100, 300, 1000, 3000, 10_000, 100_000]
          .filter((n) => n <= most)
          .map((n) => (
            <text
              key={n}
              x={x(n)}
              y={size.height - BOX.bottom + 20}
              fontSize="12"
              textAnchor="middle"
              fill="var(--ink-soft)"
            >
              {grouped(n)}
            </text>
          ))}
        <text
          x={(BOX.left + size.width - BOX.right) / 2}
          y={size.height - 18}
          fontSize="12.5"
          textAnchor="middle"
          fill="var(--ink-soft)"
        >
          values
        </text>
        {mark(numbers.n, `now ${grouped(numbers.n)}`, "var(--ink)", BOX.top - 8)}
        {need.n != null && mark(need.n, `${grouped(need.n)} for ± ${need.wanted}`, "var(--ochre)", BOX.top + 12)}
      </Sheet>
      <form
        className="absolute left-16 top-10 flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
        }}
      >
        <label htmlFor={id} className="text-ink-soft">
          Ppk within ±
        </label>
        <input
          id={id}
          inputMode="decimal"
          {...field}
          className="h-8 w-20 rounded-md border border-hairline bg-paper px-2 aria-invalid:border-clay"
        />
        <span role="status">
          {need.n == null
            ? "takes more values than can be had"
            : `takes ${grouped(need.n)} values, if Ppk is ${fixed(need.ppk, 2)}`}
        </span>
      </form>
    </div>
  );
}
