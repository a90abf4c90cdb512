import type { Spec } from "../../api/queries";
import { type DrawingProps, defineFigure } from "../../study/figure";
import { type Cut, columnsOf, cutsOf } from "../../study/statement/words";
import { ControlChart } from "./control-chart";
import { LineUp } from "./line-up";

const FENCES_UNLESS =
  "They are about single pieces. Means vary less than pieces, so a mean inside a limit says nothing about the pieces.";

/** The chart with what belongs to its statement: baseline and phases. */
function Drawing({ spec, dataset: _, actions, name, ...props }: DrawingProps<"control-chart">) {
  const cuts = cutsOf(spec);
  // From the cuts there are by then: a change may come before the one before it is saved.
  const setCuts = (next: (cuts: Cut[]) => Cut[]) =>
    actions.change((spec) => ({ ...spec, options: { ...spec.options, cuts: next(cutsOf(spec)) } }));
  return (
    <ControlChart
      {...props}
      shown={{ zones: props.shown.zones ?? false, fences: props.shown.fences ?? true }}
      name={name}
      order={orderWords(spec)}
      baseline={baselineOf(spec)}
      cuts={cuts}
      onMoveCut={(from, to) => setCuts((cuts) => cuts.map((cut) => (cut.first === from ? { ...cut, first: to } : cut)))}
      onChoose={actions.choose}
      onLight={actions.light}
      onCloser={actions.closer}
      onLimitsFrom={({ first, last }) => actions.set({ limits: { from: "baseline", first, last } })}
      onPhaseFrom={(first, name) =>
        setCuts((cuts) => [...cuts.filter((cut) => cut.first !== first), { first, name }].sort(byFirst))
      }
      onOpenRows={actions.openRows}
    />
  );
}

/** The same counts as three charts. */
function Candidates({ numbers, spec, size, view, figure, name, actions }: DrawingProps<"control-chart">) {
  if (!numbers.line_up) return null;
  // Defects on a fixed amount of product are defects per one of it.
  const sized = spec.roles?.size !== undefined || spec.options?.size !== undefined;
  return (
    <LineUp
      lineUp={numbers.line_up}
      size={size}
      view={view}
      caption={`${name}, ${orderWords(spec)}`}
      onTake={(chart) => actions.set(sized ? { chart } : { chart, size: 1 })}
      figure={figure}
    />
  );
}

const byFirst = (a: { first: number }, b: { first: number }) => a.first - b.first;

function orderWords(spec: Spec): string {
  const [order] = columnsOf(spec, "order");
  return order ? `in the order of ${order}` : "in the order of the rows";
}

function baselineOf(spec: Spec) {
  const limits = spec.options?.limits as { from?: string; first?: number; last?: number } | undefined;
  if (limits?.from !== "baseline" || limits.first === undefined || limits.last === undefined) return null;
  return { first: limits.first, last: limits.last };
}

export default defineFigure({
  method: "control-chart",
  Drawing,
  points: (width) => Math.max(200, Math.round(width / 2)),
  total: (numbers) => numbers.points,
  switches: [
    { key: "zones", label: "Zones of 1 and 2 sd", usual: false },
    {
      key: "fences",
      label: "Specification limits",
      usual: true,
      unless: (numbers) => (numbers.single_values ? undefined : FENCES_UNLESS),
    },
  ],
  views: {
    "line-up": {
      Drawing: Candidates,
      unless: (numbers) => (numbers.line_up ? undefined : "Only counts can be lined up."),
      margin: ({ line_up }) => ({
        verdict: line_up?.verdict ?? { tone: "unsure", title: "", sentence: "" },
        notes: line_up?.notes ?? [],
      }),
    },
  },
});
