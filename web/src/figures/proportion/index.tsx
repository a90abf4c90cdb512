import { type DrawingProps, defineFigure } from "../../study/figure";
import { Claim } from "./claim";

export default defineFigure({
  method: "proportion",
  Drawing: ({ numbers, name, size, figure }: DrawingProps<"proportion">) => (
    <Claim numbers={numbers} name={name} size={size} figure={figure} />
  ),
  pointsName: "Counts",
});
