import { type DrawingProps, defineFigure } from "../../study/figure";
import { Levels } from "./levels";

type Props = DrawingProps<"multi-vari">;

/** Cells narrower than this are drawn as bands. */
const CELL_LEAST = 1.8;
const FAMILIES = 300;

export default defineFigure({
  method: "multi-vari",
  Drawing: ({ numbers, name, size, shown, figure, actions }: Props) => (
    <Levels numbers={numbers} name={name} size={size} shown={shown} figure={figure} onOpen={actions.openRows} />
  ),
  points: (width) => Math.max(40, Math.floor((width - FAMILIES) / CELL_LEAST)),
  total: ({ total }: Props["numbers"]) => total,
  switches: [
    { key: "values", label: "Every value", usual: true },
    { key: "means", label: "Means of the innermost level", usual: true },
    {
      key: "groups",
      label: "Means of outer levels",
      usual: true,
      unless: ({ factors }: Props["numbers"]) => (factors.length > 1 ? undefined : "There is one factor only."),
    },
    { key: "spread", label: "Spread below", usual: true },
  ],
  pointsName: "Combinations",
});
