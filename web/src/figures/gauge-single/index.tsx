import { type DrawingProps, defineFigure } from "../../study/figure";
import { Run } from "./run";

export default defineFigure({
  method: "gauge-single",
  Drawing: ({ numbers, name, size, figure, view }: DrawingProps<"gauge-single">) => (
    <Run numbers={numbers} name={name} size={size} figure={figure} view={view} />
  ),
  points: (width) => Math.max(50, Math.floor(width / 4)),
  total: ({ n }) => n,
  pointsName: "Readings",
});
