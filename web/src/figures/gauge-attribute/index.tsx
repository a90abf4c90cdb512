import { type DrawingProps, defineFigure } from "../../study/figure";
import { Grid } from "./grid";

export default defineFigure({
  method: "gauge-attribute",
  Drawing: ({ numbers, name, size, figure, shown, notes, lit, actions }: DrawingProps<"gauge-attribute">) => (
    <Grid
      numbers={numbers}
      name={name}
      size={size}
      figure={figure}
      byName={shown["by-name"] ?? false}
      notes={notes}
      lit={lit}
      onLight={actions.light}
      onOpen={actions.openRows}
    />
  ),
  switches: [{ key: "by-name", label: "Pieces in the order of the data", usual: false }],
  pointsName: "Judgements",
});
