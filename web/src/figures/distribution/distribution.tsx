import { type KeyboardEvent, type RefObject, useMemo, useState } from "react";
import { counted, fixed, type ValueFormat, writerOf } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { Boxes } from "./boxes";
import { Histograms } from "./histograms";
import { type Bin, type Cell, fencesNear, GROUPS_DRAWN, type Numbers, placeCells } from "./layout";
import { Fences, ValueAxis } from "./marks";
import type { Chosen } from "./picture-props";
import { Probability } from "./probability";
import { SingleValues } from "./single-values";

type Props = {
  numbers: Numbers;
  name: string;
  limits: { lsl?: number | null; usl?: number | null };
  size: { width: number; height: number };
  figure: RefObject<SVGSVGElement | null>;
  shown: Record<string, boolean>;
  /** A width tried while an edge is dragged, and then taken. */
  onTryWidth: (width: number) => void;
  onTakeWidth: (width: number) => void;
};

/** The same values as histograms, boxes, single values or probability plots, group by group. */
export function Distribution({ numbers, name, limits, size, figure, shown, onTryWidth, onTakeWidth }: Props) {
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const fences = useMemo(() => fencesNear(numbers, limits), [numbers, limits]);
  const inRows = numbers.show === "boxes" || (numbers.show === "values" && numbers.groups.length > 1);
  const cells = useMemo(
    () => placeCells(numbers, size.width, size.height, fences, inRows),
    [numbers, size.width, size.height, fences, inRows],
  );
  const bars = cells.flatMap((cell, place) => cell.group.bins.map((_, bin) => ({ cell: place, bin })));
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (event.key === "Escape") setChosen(null);
    if (!step || numbers.show !== "histograms") return;
    event.preventDefault();
    const here = bars.findIndex((bar) => bar.cell === chosen?.cell && bar.bin === chosen.bin);
    setChosen(bars[Math.max(0, Math.min(bars.length - 1, here + step))] ?? null);
  };
  const cell = chosen ? cells[chosen.cell] : undefined;
  const bin = cell && chosen ? cell.group.bins[chosen.bin] : undefined;
  const unit = writer.unit && ` (${writer.unit})`;
  const left = numbers.groups.length - cells.length;
  const words = summary(numbers, name, writer);
  const Picture =
    { histograms: Histograms, boxes: Boxes, values: SingleValues, probability: Probability }[numbers.show] ??
    Histograms;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Bars of ${name}`}
      aria-valuemin={1}
      aria-valuemax={Math.max(1, bars.length)}
      aria-valuenow={
        1 +
        Math.max(
          0,
          bars.findIndex((bar) => bar.cell === chosen?.cell && bar.bin === chosen?.bin),
        )
      }
      aria-valuetext={cell && bin ? barWords(cell, bin, writer) : words}
      onKeyDown={onKeyDown}
      onBlur={() => setChosen(null)}
      className="relative h-full rounded-xl"
    >
      <Sheet figure={figure} size={size} label={words}>
        <Heading x={cells[0]?.box.left ?? 20} y={26}>
          {TITLES[numbers.show]}, {name}
          {unit}
        </Heading>
        {left > 0 && (
          <text x={size.width - 150} y="26" fontSize="12" textAnchor="end" fill="var(--ink-soft)">
            the first {GROUPS_DRAWN} groups with values; the ledger has all
          </text>
        )}
        {cells.map((cell) => (
          <g key={cell.index}>
            <Fences cell={cell} fences={fences} labelled={cell.index === 0} />
            {cell.showsAxis && <ValueAxis cell={cell} writer={writer} />}
          </g>
        ))}
        <Picture
          cells={cells}
          writer={writer}
          sameScale={numbers.same_scale}
          shown={shown}
          chosen={chosen}
          onChoose={setChosen}
          onTryWidth={onTryWidth}
          onTakeWidth={onTakeWidth}
        />
      </Sheet>
      {cell && bin && (
        <p
          aria-hidden
          data-testid="bar"
          className="pointer-events-none absolute z-10 -translate-x-1/2 whitespace-nowrap rounded-lg border border-hairline bg-sheet px-2.5 py-1.5 text-[13px] shadow-lg"
          style={{
            left: Math.max(150, Math.min(size.width - 150, cell.x((bin.from + bin.to) / 2))),
            top: Math.min(size.height - 36, cell.box.bottom + 24),
          }}
        >
          {barWords(cell, bin, writer)}
        </p>
      )}
    </div>
  );
}

const TITLES: Record<string, string> = {
  histograms: "Histogram",
  boxes: "Box plots",
  values: "Individual values, in the order of the rows",
  probability: "Normal probability plot",
};

/** "41 values from 12.30 up to 12.35 mm (8.2 %)". */
function barWords({ group }: Cell, bin: Bin, writer: ValueFormat): string {
  const last = bin === group.bins.at(-1);
  const share = fixed((100 * bin.count) / Math.max(1, group.n), 1);
  const whose = group.label == null ? "" : `${group.label}: `;
  return `${whose}${counted(bin.count, "value", "values")} from ${writer.bareComputed(bin.from)} ${last ? "to" : "up to"} ${writer.computed(bin.to)} (${share} %)`;
}

function summary(numbers: Numbers, name: string, writer: ValueFormat): string {
  const [only] = numbers.groups;
  if (numbers.groups.length > 1) return `Distribution of ${name} in ${numbers.groups.length} groups.`;
  if (!only || only.mean == null) return `Distribution of ${name}.`;
  return `Distribution of ${name}: ${only.n} values about ${writer.computed(only.mean)}. Arrow keys go from bar to bar.`;
}
