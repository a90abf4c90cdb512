import { rangesOf } from "../../lib/row-ranges";
import { type DrawingProps, defineFigure } from "../../study/figure";
import { leftOutOf } from "../../study/statement/words";
import { Residuals } from "./residuals";
import { Scatter } from "./scatter";

type Props = DrawingProps<"relation">;

export default defineFigure({
  method: "relation",
  Drawing: ({ numbers, spec, size, shown, figure, actions }: Props) => (
    <Scatter
      numbers={numbers}
      size={size}
      shown={shown}
      figure={figure}
      onOpen={actions.openIds}
      onLeaveOut={(rows, why) =>
        actions.set({ left_out: [...leftOutOf({ name: "left_out" }, spec), { rows: rangesOf(rows), why }] })
      }
    />
  ),
  views: {
    residuals: {
      Drawing: ({ numbers, size, figure }: Props) => <Residuals numbers={numbers} size={size} figure={figure} />,
      label: "What the fit leaves",
      unless: ({ fit, cells }: Props["numbers"]) =>
        !fit ? "There is no fit." : cells ? "There are too many points to draw each." : undefined,
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
