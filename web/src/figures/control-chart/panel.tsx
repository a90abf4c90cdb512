import { memo } from "react";
import type { ValueFormat } from "../../lib/format";
import { EndLabels, LimitLines, Wash, Zones } from "../../marks/limit-lines";
import type { PanelLayout, PointNumbers } from "../../marks/panel-layout";
import { Axis, Dots, FenceLine, ValueLine } from "../../marks/panel-marks";
import { Heading } from "../../marks/sheet";

type Props = { layout: PanelLayout; title: string; writer: ValueFormat; zones: boolean };

/** The marks of one panel that do not answer to the pointer. */
export const Panel = memo(function Panel({ layout, title, writer, zones }: Props) {
  const { box } = layout;
  return (
    <g>
      <Heading x={box.left} y={box.top - 14}>
        {title}
      </Heading>
      <Wash layout={layout} />
      <Axis layout={layout} writer={writer} />
      {layout.fences.map((fence) => (
        <FenceLine key={fence.side} layout={layout} {...fence} />
      ))}
      {zones && <Zones layout={layout} />}
      <LimitLines layout={layout} />
      <Values layout={layout} />
      <EndLabels layout={layout} writer={writer} />
    </g>
  );
});

/** The values plotted: one series, or the two sums of a cumulative sum, the one below downwards. */
function series({ numbers }: PanelLayout): { key: string; of: (point: PointNumbers) => number | null }[] {
  if (numbers.name !== "cusum") return [{ key: "value", of: (point) => point.value ?? null }];
  return [
    { key: "above", of: (point) => point.upper ?? null },
    { key: "below", of: (point) => (point.lower == null ? null : -point.lower) },
  ];
}

function Values({ layout }: { layout: PanelLayout }) {
  return series(layout).map(({ key, of }) => (
    <g key={key}>
      <ValueLine layout={layout} of={of} />
      <Dots layout={layout} of={of} />
    </g>
  ));
}
