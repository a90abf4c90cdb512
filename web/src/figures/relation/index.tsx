import { type DrawingProps, defineFigure } from "../../study/figure";
import { Residuals } from "./residuals";
import { Scatter } from "./scatter";

type Props = DrawingProps<"relation">;

export default defineFigure({
  method: "relation",
  Drawing: ({ numbers, size, shown, figure, actions }: Props) => (
    <Scatter numbers={numbers} size={size} shown={shown} figure={figure} onOpen={actions.openIds} />
  ),
  views: {
    residuals: {
      Drawing: ({ numbers, size, figure }: Props) => <Residuals numbers={numbers} size={size} figure={figure} />,
      label: "What the fit leaves",
      unless: ({ fit, points }: Props["numbers"]) =>
        !fit ? "There is no fit." : points.length === 0 ? "There are too many points to draw each." : undefined,
    },
  },
  switches: [
    {
      key: "bands",
      label: "Bands of the fit",
      usual: true,
      unless: ({ fit }: Props["numbers"]) => (fit ? undefined : "There is no fit."),
    },
  ],
  pointsName: "Pairs",
});
