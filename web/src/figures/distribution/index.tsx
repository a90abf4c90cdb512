import { type DrawingProps, defineFigure } from "../../study/figure";
import { Distribution } from "./distribution";

export default defineFigure({
  method: "distribution",
  Drawing: ({ numbers, name, limits, size, figure, shown, actions }: DrawingProps<"distribution">) => (
    <Distribution
      numbers={numbers}
      name={name}
      limits={limits}
      size={size}
      figure={figure}
      shown={shown}
      onTryWidth={(width) => actions.attempt({ bins: { width } })}
      onTakeWidth={(width) => actions.set({ bins: { width } })}
    />
  ),
  switches: [
    {
      key: "curve",
      label: "Normal curve",
      usual: true,
      unless: ({ show }) => (show === "histograms" ? undefined : "It is drawn over a histogram."),
    },
    { key: "mean", label: "Mean", usual: true },
  ],
  pointsName: "Bars",
});
