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
    <OneScale numbers={numbers} name={name} size={size} figure={figure} shown={shown} />
  ),
  points: (width) => Math.max(100, Math.round(width / 4)),
  switches: [
    {
      key: "short-term",
      label: "Short-term curve",
      usual: true,
      unless: (numbers) =>
        numbers.short_term.length > 0 ? undefined : "This shape is taken from all values together.",
    },
    {
      key: "long-term",
      label: "Long-term curve",
      usual: true,
      unless: (numbers) => (numbers.long_term.length > 0 ? undefined : "Percentiles assume no shape."),
    },
    { key: "mean", label: "Mean", usual: true },
    {
      key: "sigma lines",
      label: "Sigma lines at 1, 2 and 3 sd",
      usual: false,
      unless: (numbers) => (numbers.sigma_lines.length > 0 ? undefined : "No shape with an sd is assumed."),
    },
    { key: "spread", label: "Spread underneath", usual: false },
  ],
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
