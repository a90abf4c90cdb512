import { type PointerEvent, type RefObject, useMemo, useState } from "react";
import { counted, fixed, writerOf } from "../../lib/format";
import { SeriesMark, seriesColour } from "../../marks/series-mark";
import { Heading, Sheet } from "../../marks/sheet";
import { Stepped } from "../../marks/stepped";
import type { Size } from "../../study/figure";
import { BoxMenu, type Chosen } from "./box-menu";
import { bandPath, inside, type Layout, type Numbers, type Point, placeRelation } from "./layout";

type Props = {
  numbers: Numbers;
  size: Size;
  shown: Record<string, boolean>;
  figure: RefObject<SVGSVGElement | null>;
  onOpen: (rows: number[]) => void;
  onLeaveOut: (rows: number[], why: string) => void;
};

type Spot = [number, number];
/** A shorter drag is none. */
const DRAG_LEAST = 6;

/** Points with the bars of both on the edges, the fit with its bands; a dragged box opens the rows of its points. */
export function Scatter({ numbers, size, shown, figure, onOpen, onLeaveOut }: Props) {
  const layout = useMemo(() => placeRelation(numbers, size.width, size.height), [numbers, size.width, size.height]);
  const [box, setBox] = useState<[Spot, Spot] | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const [menu, setMenu] = useState<Chosen | null>(null);
  const [wx, wy] = numbers.writers.map((writer) => writerOf(writer));
  const order = useMemo(
    () =>
      numbers.points.map((_, place) => place).sort((a, b) => (numbers.points[a]?.x ?? 0) - (numbers.points[b]?.x ?? 0)),
    [numbers.points],
  );
  const point = at === null ? undefined : numbers.points[order[at] ?? 0];
  const later = numbers.lag > 0 ? ` ${counted(numbers.lag, "row", "rows")} later` : "";
  const title = `${numbers.names[1]}${later} against ${numbers.names[0]}`;
  const words = (one: Point) => {
    const group = one.group == null ? "" : `, ${numbers.groups[one.group]?.label}`;
    return `${numbers.names[0]} ${wx?.value(one.x)}, ${numbers.names[1]} ${wy?.value(one.y)}${group}`;
  };
  const chosen = box ? inside(numbers.points, layout, box) : [];
  const spot = (event: PointerEvent<SVGSVGElement>): Spot => {
    const corner = event.currentTarget.getBoundingClientRect();
    return [event.clientX - corner.left, event.clientY - corner.top];
  };
  const choose = (points: Point[], [x, y]: Spot) =>
    setMenu({
      rows: points.map(({ row }) => row),
      left: Math.max(8, Math.min(size.width - 270, x + 10)),
      top: Math.max(8, Math.min(size.height - 130, y + 10)),
    });
  const finish = () => {
    const far = box && Math.hypot(box[0][0] - box[1][0], box[0][1] - box[1][1]) >= DRAG_LEAST;
    if (far && chosen.length > 0) choose(chosen, box[1]);
    setBox(null);
  };
  const summary = `${title}: ${counted(numbers.n, "pair", "pairs")}, correlation ${numbers.pearson == null ? "none" : fixed(numbers.pearson, 2)}. Left and right go from point to point, Enter opens it or leaves it out; a dragged box takes the points inside.`;
  return (
    <div className="relative h-full">
      <Stepped
        label={title}
        count={order.length}
        at={at}
        onAt={setAt}
        steps={{ ArrowRight: 1, ArrowLeft: -1, PageDown: 10, PageUp: -10 }}
        words={point ? words(point) : summary}
        onEnter={() => point && choose([point], [layout.x(point.x), layout.y(point.y)])}
        className="touch-none"
      >
        <Sheet
          figure={figure}
          size={size}
          label={summary}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setMenu(null);
            setBox([spot(event), spot(event)]);
          }}
          onPointerMove={(event) => box && setBox([box[0], spot(event)])}
          onPointerUp={finish}
        >
          <Heading x={16} y={26}>
            {title}
          </Heading>
          <Legend numbers={numbers} />
          <Axes numbers={numbers} layout={layout} bare={[wx?.bare ?? String, wy?.bare ?? String]} />
          <Marks numbers={numbers} layout={layout} shown={shown} />
          {point && (
            <g data-export="no">
              <circle
                cx={layout.x(point.x)}
                cy={layout.y(point.y)}
                r="9"
                fill="none"
                stroke="var(--moss)"
                strokeWidth="2.2"
              />
              <text x={layout.box.left + 8} y={layout.box.top + 16} fontSize="13" fill="var(--ink)">
                {words(point)}
              </text>
            </g>
          )}
          {box && (
            <g data-export="no">
              <rect
                x={Math.min(box[0][0], box[1][0])}
                y={Math.min(box[0][1], box[1][1])}
                width={Math.abs(box[0][0] - box[1][0])}
                height={Math.abs(box[0][1] - box[1][1])}
                fill="var(--moss)"
                fillOpacity="0.12"
                stroke="var(--moss)"
              />
              <text x={box[1][0] + 8} y={box[1][1] - 8} fontSize="13" fontWeight="600" fill="var(--moss)">
                {counted(chosen.length, "row", "rows")}
                {numbers.cells && " that stand alone"}
              </text>
            </g>
          )}
        </Sheet>
      </Stepped>
      {menu && (
        <BoxMenu
          chosen={menu}
          onOpen={onOpen}
          onLeaveOut={(rows, why) => {
            onLeaveOut(rows, why);
            setMenu(null);
          }}
          onClear={() => setMenu(null)}
        />
      )}
    </div>
  );
}

/** The groups, each with its mark and its own correlation. */
function Legend({ numbers: { groups } }: { numbers: Numbers }) {
  let x = 16;
  return (
    <g fontSize="12" fill="var(--ink-soft)">
      {groups.slice(0, 6).map(({ label, pearson }, place) => {
        const words = `${label.length > 12 ? `${label.slice(0, 11)}…` : label}${pearson == null ? "" : ` ${fixed(pearson, 2)}`}`;
        const here = x;
        x += 30 + 6.6 * words.length;
        return (
          <g key={label}>
            <SeriesMark x={here + 4} y={42} series={place} />
            <text x={here + 14} y={46}>
              {words}
            </text>
          </g>
        );
      })}
    </g>
  );
}

type AxesProps = { numbers: Numbers; layout: Layout; bare: [(value: number) => string, (value: number) => string] };

function Axes({ numbers, layout: { box, x, y, over, beside }, bare: [bareX, bareY] }: AxesProps) {
  const unit = (place: number) => {
    const unit = numbers.writers[place]?.unit;
    return unit ? ` (${unit})` : "";
  };
  return (
    <g fontSize="12" fill="var(--ink-soft)">
      <g fill="var(--slate-mid)" fillOpacity="0.6">
        {[...over, ...beside].map(({ left, top, wide, high }) => (
          <rect key={`${left} ${top}`} x={left} y={top} width={wide} height={high} />
        ))}
      </g>
      <path
        d={`M${box.left} ${box.top}V${box.bottom}H${box.right}`}
        fill="none"
        stroke="var(--hairline)"
        strokeWidth="1.4"
      />
      {x.ticks(Math.max(3, Math.floor((box.right - box.left) / 90))).map((tick) => (
        <text key={tick} x={x(tick)} y={box.bottom + 18} textAnchor="middle">
          {bareX(tick)}
        </text>
      ))}
      {y.ticks(Math.max(3, Math.floor((box.bottom - box.top) / 60))).map((tick) => (
        <text key={tick} x={box.left - 8} y={y(tick) + 4} textAnchor="end">
          {bareY(tick)}
        </text>
      ))}
      <text x={(box.left + box.right) / 2} y={box.bottom + 40} textAnchor="middle">
        {numbers.names[0]}
        {unit(0)}
      </text>
      <text x={16} y={box.top - 12}>
        {numbers.names[1]}
        {unit(1)}
      </text>
    </g>
  );
}

/** Whether a point lies inside the axes. */
const within = ({ box, x, y }: Layout, point: Point) =>
  x(point.x) >= box.left && x(point.x) <= box.right && y(point.y) >= box.top && y(point.y) <= box.bottom;

type MarksProps = { numbers: Numbers; layout: Layout; shown: Record<string, boolean> };

function Marks({ numbers, layout, shown }: MarksProps) {
  const { x, y, cells, box } = layout;
  const { fit, points } = numbers;
  const grouped = numbers.groups.length > 0;
  const line = fit?.curve.map((at, place) => `${place === 0 ? "M" : "L"}${x(at.x)} ${y(at.y)}`).join("");
  const far = numbers.influential?.is_apart ? numbers.influential : null;
  const maker = points.find(({ row }) => row === far?.row);
  return (
    <g>
      {cells.map(({ left, top, wide, high, share }) => (
        <rect
          key={`${left} ${top}`}
          x={left}
          y={top}
          width={wide + 0.4}
          height={high + 0.4}
          fill="var(--slate)"
          fillOpacity={share}
        />
      ))}
      {(shown.bands ?? true) && fit && (
        <g fill="var(--moss)">
          <path d={bandPath(numbers, layout, "point_reach")} fillOpacity="0.07" />
          <path d={bandPath(numbers, layout, "mean_reach")} fillOpacity="0.18" />
        </g>
      )}
      {points.map((point) =>
        grouped ? (
          <SeriesMark
            key={point.row}
            x={x(point.x)}
            y={y(point.y)}
            series={point.group ?? 7}
            faint={point.group == null}
          />
        ) : (
          <circle key={point.row} cx={x(point.x)} cy={y(point.y)} r="3.2" fill={seriesColour(0)} fillOpacity="0.55" />
        ),
      )}
      {numbers.left_out
        .filter((point) => within(layout, point))
        .map((point) => (
          <path
            key={point.row}
            d={`M${x(point.x) - 4} ${y(point.y) - 4}l8 8m0-8l-8 8`}
            stroke="var(--ink-soft)"
            strokeWidth="1.4"
          />
        ))}
      {line && <path d={line} fill="none" stroke="var(--moss)" strokeWidth="2.2" />}
      {maker && (
        <g>
          <circle cx={x(maker.x)} cy={y(maker.y)} r="8.5" fill="none" stroke="var(--plum)" strokeWidth="2.2" />
          <text
            x={x(maker.x) + (x(maker.x) > box.right - 120 ? -13 : 13)}
            y={y(maker.y) + 4}
            textAnchor={x(maker.x) > box.right - 120 ? "end" : "start"}
            fontSize="12"
            fontWeight="600"
            fill="var(--plum)"
          >
            row {(far?.at ?? 0) + 1} makes the fit
          </text>
        </g>
      )}
    </g>
  );
}
