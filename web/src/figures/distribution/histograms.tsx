import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { type PointerEvent, useRef } from "react";
import type { Schema } from "../../api/client";
import { type Cell, roundWidth } from "./layout";
import { GroupName } from "./marks";
import type { PictureProps } from "./picture-props";

/** How near to an edge the pointer takes hold of it. */
const GRIP = 5;

/** Histograms with the normal curve as a yardstick. Dragging the edge of a bar changes the width of all. */
export function Histograms(props: PictureProps) {
  const { cells, sameScale } = props;
  const tallest = (cell: Cell) =>
    Math.max(1, ...cell.group.bins.map((bin) => bin.count), ...cell.group.curve.map((point) => point.count));
  // Groups of unlike size compare by share of their own values.
  const most = Math.max(...cells.map((cell) => tallest(cell) / cell.group.n));
  return cells.map((cell, place) => (
    <Histogram
      key={cell.index}
      {...props}
      cell={cell}
      place={place}
      top={sameScale ? most * cell.group.n : tallest(cell)}
    />
  ));
}

function Histogram(props: PictureProps & { cell: Cell; place: number; top: number }) {
  const { cell, place, top, shown, chosen, onChoose, onTryWidth, onTakeWidth } = props;
  const { group, box, x } = cell;
  const drag = useRef<{ from: number; width: number; scale: Cell["x"] } | null>(null);
  const y = scaleLinear([0, top * 1.04], [box.bottom, box.top]);
  const widthAt = (event: PointerEvent<SVGGElement>) => {
    const left = event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0;
    // By the scale at the start: the bars that follow may change the one in sight.
    const { from = 0, scale = x } = drag.current ?? {};
    const wide = scale.invert(event.clientX - left) - from;
    const [low = 0, high = 1] = scale.domain();
    return roundWidth(Math.max((high - low) / 200, Math.min(high - low, wide)));
  };
  const edgeNear = (event: PointerEvent<SVGGElement>) => {
    const left = event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0;
    return group.bins.find((bin) => Math.abs(x(bin.to) - (event.clientX - left)) < GRIP);
  };
  const onPointerMove = (event: PointerEvent<SVGGElement>) => {
    if (!drag.current) {
      const left = event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0;
      const at = x.invert(event.clientX - left);
      event.currentTarget.style.cursor = edgeNear(event) ? "ew-resize" : "";
      const bin = group.bins.findIndex((bin) => at >= bin.from && at < bin.to);
      return onChoose(bin < 0 ? null : { cell: place, bin });
    }
    const width = widthAt(event);
    if (width !== drag.current.width) {
      drag.current.width = width;
      onTryWidth(width);
    }
  };
  return (
    <g
      onPointerMove={onPointerMove}
      onPointerLeave={() => !drag.current && onChoose(null)}
      onPointerDown={(event) => {
        const bin = edgeNear(event);
        if (!bin) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { from: bin.from, width: bin.to - bin.from, scale: x };
      }}
      onPointerUp={() => {
        if (drag.current) onTakeWidth(drag.current.width);
        drag.current = null;
      }}
    >
      <rect x={box.left} y={box.top} width={box.right - box.left} height={box.bottom - box.top} fill="transparent" />
      <CountAxis cell={cell} y={y} />
      {group.bins.map((bin, index) => {
        const [left, right] = [x(bin.from), x(bin.to)];
        const lit = chosen?.cell === place && chosen.bin === index;
        const wide = right - left;
        return (
          <rect
            key={bin.from}
            data-bar={index}
            x={left + (wide > 3 ? 0.6 : 0)}
            width={Math.max(0.5, wide - (wide > 3 ? 1.2 : 0))}
            y={y(bin.count)}
            height={box.bottom - y(bin.count)}
            fill="var(--slate)"
            fillOpacity={lit ? 1 : 0.72}
          />
        );
      })}
      <path
        d={shown.curve === false ? "" : normalCurve(group.curve, x, y)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.6"
        strokeDasharray="1.5 4"
        strokeLinecap="round"
        pointerEvents="none"
      />
      {shown.mean !== false && group.mean != null && (
        <path d={`M${x(group.mean)} ${box.top}V${box.bottom}`} stroke="var(--moss)" strokeWidth="1.6" />
      )}
      <GroupName cell={cell} beside={false} />
    </g>
  );
}

function normalCurve(curve: Schema["CurvePoint"][], x: Cell["x"], y: (count: number) => number): string {
  const [low = 0, high = 0] = x.domain();
  const inside = curve.filter((point) => point.value >= low && point.value <= high);
  return (
    line<Schema["CurvePoint"]>()
      .x((point) => x(point.value))
      .y((point) => y(point.count))(inside) ?? ""
  );
}

function CountAxis({ cell, y }: { cell: Cell; y: ReturnType<typeof scaleLinear<number, number>> }) {
  const { box } = cell;
  const ticks = y.ticks(Math.max(1, Math.floor((box.bottom - box.top) / 44))).filter(Number.isInteger);
  if (box.bottom - box.top < 60) return null;
  return (
    <g fontSize="12" fill="var(--ink-soft)" textAnchor="end">
      {ticks.map((tick) => (
        <g key={tick}>
          <path d={`M${box.left} ${y(tick)}H${box.right}`} stroke="var(--hairline)" strokeOpacity="0.6" />
          <text x={box.left - 8} y={y(tick) + 4}>
            {tick}
          </text>
        </g>
      ))}
    </g>
  );
}
