import { type DrawingProps, defineFigure } from "../../study/figure";
import { Bias } from "./bias";

export default defineFigure({
  method: "gauge-linearity",
  Drawing: ({ numbers, name, size, figure, shown }: DrawingProps<"gauge-linearity">) => (
    <Bias numbers={numbers} name={name} size={size} figure={figure} single={shown.single ?? true} />
  ),
  switches: [{ key: "single", label: "Single readings", usual: true }],
  pointsName: "Readings",
});
