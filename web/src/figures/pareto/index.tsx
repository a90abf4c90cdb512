import { type DrawingProps, defineFigure } from "../../study/figure";
import { ChangeRows } from "./change-rows";
import { KindCard } from "./kind-card";
import { OwnRows } from "./own-rows";
import { RankedRows } from "./ranked-rows";

type Props = DrawingProps<"pareto">;

const Ranked = ({ numbers, name, size, figure, shown, spec, dataset, actions }: Props) => (
  <RankedRows
    numbers={numbers}
    name={name}
    size={size}
    figure={figure}
    besides={shown}
    onTryFold={(top) => actions.attempt({ fold: { top } })}
    onTakeFold={(top) => actions.set({ fold: { top } })}
    card={(kind, onClose) => (
      <KindCard
        kind={kind}
        names={numbers.merged?.[kind.label] ?? [kind.label]}
        others={numbers.overall.bars.map(({ category }) => category).filter((category) => category !== kind.label)}
        spec={spec}
        dataset={dataset}
        actions={actions}
        onClose={onClose}
      />
    )}
  />
);

export default defineFigure({
  method: "pareto",
  Drawing: (props: Props) =>
    props.numbers.change ? (
      <ChangeRows change={props.numbers.change} name={props.name} size={props.size} figure={props.figure} />
    ) : (
      <Ranked {...props} />
    ),
  views: {
    own: {
      Drawing: ({ numbers, name, size, figure }: Props) => (
        <OwnRows numbers={numbers} name={name} size={size} figure={figure} />
      ),
      label: "Each group in its own order",
      unless: ({ groups }: Props["numbers"]) => (groups.length > 0 ? undefined : "There are no groups."),
    },
    ranked: {
      Drawing: Ranked,
      label: "Before and after together, ranked",
      unless: ({ change }: Props["numbers"]) => (change ? undefined : "Nothing is compared."),
    },
  },
  switches: [
    {
      key: "number",
      label: "Number beside weight",
      usual: true,
      unless: ({ unweighed }: Props["numbers"]) => (unweighed ? undefined : "Counts are not weighed."),
    },
    {
      key: "alike",
      label: "If all kinds were alike",
      usual: false,
      unless: ({ alike }: Props["numbers"]) => (alike ? undefined : "Only counts of several kinds have such a shape."),
    },
  ],
  pointsName: "Kinds",
});
