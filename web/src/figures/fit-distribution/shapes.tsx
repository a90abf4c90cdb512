import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Schema } from "../../api/client";
import { writerOf } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { toneColour } from "../../marks/tone";
import type { DrawingProps } from "../../study/figure";

/** Each recommended shape over the values, the best at the top, with why it is or is not to be trusted. */
export function ShapesPicture({ numbers, size, figure }: DrawingProps<"fit-distribution">) {
  const { bars, fits } = numbers;
  const rows = Math.max(1, fits.length);
  const tall = (size.height - 40) / rows;
  const right = Math.min(size.width * 0.62, size.width - 280);
  const x = scaleLinear([bars[0]?.from ?? 0, bars.at(-1)?.to ?? 1], [44, right]);
  const writer = writerOf(numbers.writer);
  const letters = Math.floor((size.width - right - 40) / 6.8);
  const row = (fit: (typeof fits)[number] | undefined, place: number) => {
    const top = place * tall;
    const bottom = top + tall - 30;
    const most = Math.max(1, ...bars.map(({ count }) => count), ...(fit?.curve ?? []).map(({ count }) => count));
    const y = scaleLinear([0, most], [bottom, top + 26]);
    const path = line<Schema["CurvePoint"]>()
      .x(({ value }) => x(value))
      .y(({ count }) => y(count))(fit?.curve ?? []);
    return (
      <g key={fit?.words ?? "none"}>
        {bars.map(({ from, to, count }) => (
          <rect
            key={from}
            x={x(from) + 0.4}
            width={Math.max(0.6, x(to) - x(from) - 0.8)}
            y={y(count)}
            height={bottom - y(count)}
            fill="var(--slate)"
            fillOpacity="0.7"
          />
        ))}
        <path d={`M44 ${bottom}H${right}`} stroke="var(--hairline)" />
        {x.ticks(6).map((tick) => (
          <text key={tick} x={x(tick)} y={bottom + 17} fontSize="12" textAnchor="middle" fill="var(--ink-soft)">
            {x.tickFormat(6)(tick).replace("-", "−")}
          </text>
        ))}
        {fit && path && <path d={path} fill="none" stroke="var(--ink)" strokeWidth="2" />}
        {fit && (
          <g transform={`translate(${right + 26},${top + 40})`}>
            <Heading x={0} y={0}>
              {`${place + 1}. ${fit.words}`}
            </Heading>
            {lines(fit.why, letters).map((words, index) => (
              <text key={words} y={20 + 17 * index} fontSize="13" fill={toneColour(fit.tone)}>
                {words}
              </text>
            ))}
            {fit.parameters.map(({ name, value }, index) => (
              <text
                key={name}
                y={20 + 17 * (lines(fit.why, letters).length + index)}
                fontSize="13"
                fill="var(--ink-soft)"
              >
                {name} {String(Number(value.toPrecision(5))).replace("-", "−")}
              </text>
            ))}
          </g>
        )}
      </g>
    );
  };
  const labels = fits.map(({ words, why }) => `${words}: ${why}`).join("; ");
  return (
    <Sheet
      figure={figure}
      size={size}
      label={`Shapes of ${numbers.column}, mean ${numbers.mean == null ? "none" : writer.computed(numbers.mean)}: ${labels}`}
    >
      <g transform="translate(0,16)">{fits.length > 0 ? fits.map(row) : row(undefined, 0)}</g>
    </Sheet>
  );
}

/** Words cut into lines of so many letters at most. */
function lines(text: string, letters: number): string[] {
  const found: string[] = [];
  for (const word of text.split(" ")) {
    const last = found.at(-1);
    if (last !== undefined && last.length + word.length < letters) found[found.length - 1] = `${last} ${word}`;
    else found.push(word);
  }
  return found;
}
