import { type DrawingProps, defineFigure } from "../../study/figure";
import { Columns } from "./columns";
import { pairsOf } from "./layout";

type Props = DrawingProps<"compare">;

export default defineFigure({
  method: "compare",
  Drawing: ({ numbers, name, size, shown, figure }: Props) => (
    <Columns numbers={numbers} name={name} size={size} shown={shown} figure={figure} />
  ),
  switches: [
    {
      key: "limits",
      label: "Decision limits",
      usual: true,
      unless: ({ anom, groups }: Props["numbers"]) =>
        anom && groups.length > 2 ? undefined : "Only three groups or more of one size have decision limits.",
    },
    {
      key: "pairs",
      label: "Pairs that differ",
      usual: true,
      unless: (numbers: Props["numbers"]) =>
        pairsOf(numbers).length > 0 ? undefined : "Only three groups or more are compared in pairs.",
    },
  ],
  pointsName: "Groups",
});
