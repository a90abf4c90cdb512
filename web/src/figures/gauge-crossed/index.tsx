import { type DrawingProps, defineFigure } from "../../study/figure";
import { Staircase } from "./staircase";

export default defineFigure({
  method: "gauge-crossed",
  Drawing: ({ numbers, name, size, figure, shown }: DrawingProps<"gauge-crossed">) => (
    <Staircase numbers={numbers} name={name} size={size} figure={figure} deviation={shown.deviation ?? false} />
  ),
  switches: [{ key: "deviation", label: "Readings less the mean of their part", usual: false }],
  pointsName: "Readings",
});
