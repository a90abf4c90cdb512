import { type DrawingProps, defineFigure } from "../../study/figure";
import { Distribution } from "./distribution";

export default defineFigure({
  method: "distribution",
  Drawing: ({ numbers, name, limits, size, figure, actions }: DrawingProps<"distribution">) => (
    <Distribution
      numbers={numbers}
      name={name}
      limits={limits}
      size={size}
      figure={figure}
      onTryWidth={(width) => actions.attempt({ bins: { width } })}
      onTakeWidth={(width) => actions.set({ bins: { width } })}
    />
  ),
  pointsName: "Bars",
});
