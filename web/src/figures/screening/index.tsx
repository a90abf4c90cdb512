import type { Spec } from "../../api/queries";
import { type DrawingProps, defineFigure } from "../../study/figure";
import { Ranked } from "./ranked";

type Props = DrawingProps<"screening">;

const key = ({ method, roles, only }: Spec) => JSON.stringify([method, Object.entries(roles ?? {}).sort(), only ?? []]);

export default defineFigure({
  method: "screening",
  Drawing: ({ numbers, size, figure, spec, actions }: Props) => (
    <Ranked
      numbers={numbers}
      size={size}
      figure={figure}
      onOpen={({ study }) => {
        if (!study?.method) return;
        const only = [...(spec.only ?? []), ...(study.only ?? [])];
        const wanted = {
          method: study.method,
          roles: study.roles,
          options: study.options,
          only,
          data: spec.data,
        } as Spec;
        actions.ask(wanted, (other) => key(other) === key(wanted));
      }}
    />
  ),
  pointsName: "Columns",
});
