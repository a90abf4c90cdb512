import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { type PointerEvent, useId, useState } from "react";
import { typedNumber, writerOf } from "../../lib/format";
import { spreadLabels } from "../../marks/panel-layout";
import { Heading, Sheet } from "../../marks/sheet";
import { Button } from "../../parts/button";
import { Empty } from "../../parts/states";
import type { DrawingProps } from "../../study/figure";
import { cut } from "./input-card";
import { piecesOf, spreadBy } from "./model";
import { shareWords } from "./response-card";

type Props = DrawingProps<"simulation">;

const COLOURS = ["var(--ink)", "var(--moss)", "var(--clay)", "var(--slate)", "var(--ochre)", "var(--plum)"];
const DASHES = ["", "8 4", "2 3", "12 3 2 3"];

/** One line an input: the spread or the share out of a response as that input's spread goes from nothing to twice. */
export function TighteningPicture({ numbers, size, figure, spec, actions }: Props) {
  const limited = numbers.responses.filter(({ out }) => out != null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [wanted, setWanted] = useState<"out" | "sd">("out");
  const [grip, setGrip] = useState<{ input: number; by: number } | null>(null);
  const response =
    numbers.responses.find(({ name }) => name === chosen) ??
    [...limited].sort((a, b) => (b.out?.total ?? 0) - (a.out?.total ?? 0))[0] ??
    numbers.responses.at(-1);
  const lines = response?.tightening;
  if (!lines || !response)
    return (
      <Empty title="What tightening pays has not been asked yet">
        <p>Each input’s spread is taken from nothing to twice, and what that does to the responses is drawn.</p>
        <Button look="primary" className="mt-2" onClick={() => actions.set({ tightening: {} })}>
          Work it out
        </Button>
      </Empty>
    );
  const what = wanted === "out" && response.out != null ? "out" : "sd";
  const { scales } = numbers;
  const value = (place: number) => (what === "out" ? (lines[place]?.out ?? []) : (lines[place]?.sd ?? []));
  const box = { left: 74, right: size.width - 190, top: 50, bottom: size.height - 134 };
  const x = scaleLinear([Math.min(...scales), Math.max(...scales)], [box.left, box.right]);
  const most = Math.max(...lines.flatMap((_, place) => value(place)), Number.MIN_VALUE);
  const y = scaleLinear([0, most * 1.05], [box.bottom, box.top]).nice();
  const writer = writerOf(response.writer);
  const words = (number: number) => (what === "out" ? shareWords(number) : writer.computed(number));
  const drawn = lines
    .map((one, place) => ({ ...one, place, values: value(place) }))
    .filter(({ values }) => Math.max(...values) > Math.min(...values));
  const flat = lines.filter(({ name }) => !drawn.some((one) => one.name === name)).map(({ name }) => name);
  const labels = spreadLabels(
    drawn.map(({ values }) => y(values.at(-1) ?? 0)),
    16,
    box,
  );
  const pieces = piecesOf(spec);
  const apply = (place: number, by: number, done: boolean) => {
    const inputs = pieces.inputs.map((input, at) => (at === place ? spreadBy(input, by) : input));
    if (done) actions.set({ inputs });
    setGrip(done ? null : { input: place, by });
  };
  const drag = (place: number) => (event: PointerEvent<SVGCircleElement>, done: boolean) => {
    if (grip?.input !== place) return;
    const left = figure.current?.getBoundingClientRect().left ?? 0;
    const by = Math.max(0, Math.min(x.domain()[1] ?? 2, x.invert(event.clientX - left)));
    apply(place, Math.round(by * 100) / 100, done);
  };
  const at = (values: number[], by: number) => {
    const next = scales.findIndex((scale) => scale >= by);
    if (next <= 0) return values[Math.max(0, next)] ?? 0;
    const [low, high] = [scales[next - 1] ?? 0, scales[next] ?? 1];
    const part = (by - low) / (high - low || 1);
    return (values[next - 1] ?? 0) * (1 - part) + (values[next] ?? 0) * part;
  };
  return (
    <div className="relative h-full">
      <Sheet figure={figure} size={size} label={`What tightening does to ${response.name}`} reached>
        <Heading x={22} y={26}>
          {`${what === "out" ? "Share out" : "Sd"} of ${response.name}, one input’s spread changed at a time`}
        </Heading>
        {y.ticks(5).map((tick) => (
          <g key={tick}>
            <path d={`M${box.left} ${y(tick)}H${box.right}`} stroke="var(--hairline)" />
            <text x={box.left - 8} y={y(tick) + 4} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
              {tick === 0 ? "0" : words(tick)}
            </text>
          </g>
        ))}
        {scales
          .filter((_, index) => index % Math.ceil(scales.length / 9) === 0)
          .map((scale) => (
            <text key={scale} x={x(scale)} y={box.bottom + 18} textAnchor="middle" fontSize="12" fill="var(--ink-soft)">
              {Math.round(100 * scale)} %
            </text>
          ))}
        <text
          x={(box.left + box.right) / 2}
          y={box.bottom + 36}
          textAnchor="middle"
          fontSize="12"
          fill="var(--ink-soft)"
        >
          of its spread now
        </text>
        <path d={`M${x(1)} ${box.top}V${box.bottom}`} stroke="var(--ink-soft)" strokeDasharray="2 4" />
        {drawn.map(({ name, values, place }, index) => {
          const colour = COLOURS[index % COLOURS.length];
          // Every line goes through the spread of now, so that rings there would cover each other.
          const start = 0.3 + 0.4 * (drawn.length > 1 ? index / (drawn.length - 1) : 0.5);
          const now = grip?.input === place ? grip.by : start;
          const own = pieces.inputs[place];
          return (
            <g key={name}>
              <path
                d={
                  line<number>()
                    .x((_, step) => x(scales[step] ?? 0))
                    .y((one) => y(one))(values) ?? ""
                }
                fill="none"
                stroke={colour}
                strokeWidth="2"
                strokeDasharray={DASHES[Math.floor(index / COLOURS.length) % DASHES.length]}
              />
              <text x={box.right + 22} y={(labels[index] ?? 0) + 4} fontSize="13" fill={colour}>
                {cut(name, 20)}
              </text>
              <path
                d={`M${box.right + 4} ${y(values.at(-1) ?? 0)}L${box.right + 18} ${labels[index] ?? 0}`}
                stroke={colour}
                strokeOpacity="0.5"
              />
              {own && (
                <circle
                  data-export="no"
                  role="slider"
                  tabIndex={0}
                  aria-label={`Spread of ${name}`}
                  aria-valuemin={0}
                  aria-valuemax={200}
                  aria-valuenow={Math.round(100 * now)}
                  aria-valuetext={`${Math.round(100 * now)} %: ${words(at(values, now))}`}
                  cx={x(now)}
                  cy={y(at(values, now))}
                  r="6"
                  fill="var(--sheet)"
                  stroke={colour}
                  strokeWidth="2.2"
                  className="cursor-ew-resize touch-none"
                  onPointerDown={(event) => {
                    event.currentTarget.setPointerCapture(event.pointerId);
                    setGrip({ input: place, by: now });
                  }}
                  onPointerMove={(event) => drag(place)(event, false)}
                  onPointerUp={(event) => {
                    // A click alone takes nothing.
                    if (now === start) setGrip(null);
                    else drag(place)(event, true);
                  }}
                  onPointerCancel={() => setGrip(null)}
                  onKeyDown={(event) => {
                    const step = { ArrowRight: 0.05, ArrowUp: 0.05, ArrowLeft: -0.05, ArrowDown: -0.05 }[event.key];
                    if (step !== undefined) {
                      event.preventDefault();
                      setGrip({ input: place, by: Math.max(0, Math.min(2, Math.round((now + step) * 100) / 100)) });
                    }
                    if (event.key === "Enter") apply(place, now, true);
                    if (event.key === "Escape") setGrip(null);
                  }}
                />
              )}
              {grip?.input === place && (
                <text
                  data-export="no"
                  x={x(now) + 11}
                  y={y(at(values, now)) - 9}
                  fontSize="13"
                  fontWeight="600"
                  fill={colour}
                >
                  {Math.round(100 * now)} %: {words(at(values, now))}
                </text>
              )}
            </g>
          );
        })}
        {flat.length > 0 && (
          <text x={box.left} y={size.height - 76} fontSize="13" fill="var(--ink-soft)">
            Not worth money here: {cut(flat.join(", "), 90)}
          </text>
        )}
      </Sheet>
      <div className="absolute inset-x-[22px] bottom-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
        {response.out != null && (
          <div role="group" aria-label="What is drawn" className="flex gap-1">
            {(["out", "sd"] as const).map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={what === one}
                onClick={() => setWanted(one)}
                className="rounded-full px-2.5 py-1 text-ink-soft hover:bg-tint aria-pressed:bg-tint aria-pressed:font-semibold aria-pressed:text-ink"
              >
                {one === "out" ? "share out" : "sd"}
              </button>
            ))}
          </div>
        )}
        {numbers.responses.length > 1 && (
          <select
            aria-label="Response"
            value={response.name}
            onChange={(event) => setChosen(event.target.value)}
            className="h-[29px] rounded-md border border-hairline bg-paper px-1.5"
          >
            {numbers.responses.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        )}
        <span className="self-center text-ink-soft">
          Drag a ring, or move it by key and press Enter, to take that spread.
        </span>
        <span className="flex-1" />
        <Goal
          goal={numbers.cheapest?.goal}
          onGoal={(goal) => actions.set({ tightening: goal == null ? {} : { goal } })}
        />
      </div>
    </div>
  );
}

/** The share out that tightening is to reach at the least cost. */
function Goal({ goal, onGoal }: { goal: number | undefined; onGoal: (goal: number | null) => void }) {
  const id = useId();
  const [text, setText] = useState(goal === undefined ? "" : String(Number((100 * goal).toPrecision(6))));
  const value = typedNumber(text);
  const fits = value === null || (typeof value === "number" && value >= 0 && value <= 100);
  return (
    <form
      className="flex items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (fits) onGoal(typeof value === "number" ? value / 100 : null);
      }}
    >
      <label htmlFor={id}>cheapest way to</label>
      <input
        id={id}
        inputMode="decimal"
        value={text}
        aria-invalid={!fits}
        onChange={(event) => setText(event.target.value)}
        className="h-[29px] w-20 rounded-md border border-hairline bg-paper px-2 aria-invalid:border-clay"
      />
      % out
      <Button type="submit" disabled={!fits} className="h-[29px]!">
        Find
      </Button>
    </form>
  );
}
