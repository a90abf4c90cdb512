import { writerOf } from "../../lib/format";
import { Dial } from "../../marks/dial";
import { type DrawingProps, defineFigure } from "../../study/figure";
import { Need } from "./need";
import { OneScale } from "./one-scale";
import { Shapes } from "./shapes";

type Props = DrawingProps<"capability">;

export default defineFigure({
  method: "capability",
  Drawing: ({ numbers, name, size, figure, shown }: Props) => (
    <OneScale numbers={numbers} name={name} size={size} figure={figure} withSpread={shown.spread ?? false} />
  ),
  points: (width) => Math.max(100, Math.round(width / 4)),
  switches: [{ key: "spread", label: "Spread underneath", usual: false }],
  views: {
    shapes: {
      label: "Fitted shapes, compared",
      unless: (numbers) =>
        numbers.shapes.length === 0 ? "Take the best of those fitted, in the statement, to compare them." : undefined,
      Drawing: ({ numbers, size, figure, actions }: Props) => (
        <Shapes
          numbers={numbers}
          size={size}
          figure={figure}
          onTake={(shape) => {
            actions.set({ shape });
            actions.show(undefined);
          }}
        />
      ),
    },
    need: {
      label: "How many values are needed",
      unless: (numbers) => (numbers.need ? undefined : "There is no Ppk to narrow down."),
      Drawing: ({ numbers, size, figure, actions }: Props) => (
        <Need
          key={numbers.need?.wanted}
          numbers={numbers}
          size={size}
          figure={figure}
          onWant={(wanted) => actions.set({ wanted })}
        />
      ),
    },
  },
  aside: (numbers, name) => (
    <Dial limits={numbers.limits} dial={numbers.dial} writer={writerOf(numbers.writer)} name={name} />
  ),
});
