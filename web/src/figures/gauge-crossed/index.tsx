import { ShareDial } from "../../marks/gauge/share-dial";
import { Staircase } from "../../marks/gauge/staircase";
import { type DrawingProps, defineFigure } from "../../study/figure";
import { ByOperator } from "./by-operator";
import { Components } from "./components";
import { InOrder } from "./in-order";
import { Pairs } from "./pairs";

export default defineFigure({
  method: "gauge-crossed",
  Drawing: ({ numbers, name, size, figure, shown, notes, lit, actions }: DrawingProps<"gauge-crossed">) => (
    <Staircase
      numbers={numbers}
      name={name}
      size={size}
      figure={figure}
      title="Every reading, part beside part, lowest mean first"
      deviation={shown.deviation ?? false}
      notes={notes}
      lit={lit}
      onLight={actions.light}
    />
  ),
  switches: [{ key: "deviation", label: "Readings less the mean of their part", usual: false }],
  views: {
    order: {
      label: "In the order measured",
      Drawing: InOrder,
      unless: ({ in_order }) => (in_order.length > 0 ? undefined : "There are too many readings to draw one by one."),
    },
    operator: {
      label: "Part means by operator",
      Drawing: ByOperator,
      unless: ({ operators }) => (operators.length > 1 ? undefined : "There is one operator only."),
    },
    pairs: {
      label: "Operators in pairs",
      Drawing: Pairs,
      unless: ({ operators }) => (operators.length > 1 ? undefined : "There is one operator only."),
    },
    components: {
      label: "Components of variation",
      Drawing: Components,
      unless: ({ anova }) => (anova ? undefined : "Only the variance analysis has them."),
    },
  },
  aside: ({ share, basis, share_ci95 }) => <ShareDial share={share} basis={basis} interval={share_ci95} />,
  pointsName: "Readings",
});
