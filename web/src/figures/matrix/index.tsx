import type { Spec } from "../../api/queries";
import { type DrawingProps, defineFigure } from "../../study/figure";
import { Cells } from "./cells";

type Props = DrawingProps<"matrix">;

const same = (x: string, y: string, wanted: Spec) => (other: Spec) =>
  other.method === wanted.method && other.roles?.x === x && other.roles?.y === y && !other.only?.length;

export default defineFigure({
  method: "matrix",
  Drawing: ({ numbers, size, figure, spec, actions }: Props) => (
    <Cells
      numbers={numbers}
      size={size}
      figure={figure}
      onOpen={(x, y) => {
        const wanted = { method: numbers.opens, roles: { x, y }, only: spec.only, data: spec.data } as Spec;
        actions.ask(wanted, same(x, y, wanted));
      }}
    />
  ),
  pointsName: "Pairs",
});
