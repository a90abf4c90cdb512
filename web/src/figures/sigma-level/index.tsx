import { type DrawingProps, defineFigure } from "../../study/figure";
import { SigmaLevel } from "./sigma-level";

export default defineFigure({
  method: "sigma-level",
  Drawing: ({ numbers, size, figure }: DrawingProps<"sigma-level">) => (
    <SigmaLevel numbers={numbers} size={size} figure={figure} />
  ),
  points: () => 200,
});
