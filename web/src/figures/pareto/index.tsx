import { type DrawingProps, defineFigure } from "../../study/figure";
import { RankedRows } from "./ranked-rows";

export default defineFigure({
  method: "pareto",
  Drawing: ({ numbers, name, size, figure, actions }: DrawingProps<"pareto">) => (
    <RankedRows
      numbers={numbers}
      name={name}
      size={size}
      figure={figure}
      onTryFold={(top) => actions.attempt({ fold: { top } })}
      onTakeFold={(top) => actions.set({ fold: { top } })}
      onOpen={actions.openRows}
    />
  ),
  pointsName: "Kinds",
});
