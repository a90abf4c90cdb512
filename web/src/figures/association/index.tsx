import { fixed, grouped, percent } from "../../lib/format";
import { type DrawingProps, defineFigure } from "../../study/figure";
import { Layers } from "./layers";
import { drawnOf } from "./layout";
import { Tiles } from "./tiles";

type Props = DrawingProps<"association">;

const Observed = ({ numbers, size, figure, actions }: Props) => {
  const table = drawnOf(numbers);
  return (
    <Tiles
      numbers={numbers}
      title={`Counts by ${numbers.names[1]} and ${numbers.names[0]}`}
      marks={{ bar: "counted", tick: "expected" }}
      matrix={{ values: table.observed, ticks: table.expected }}
      write={grouped}
      size={size}
      figure={figure}
      onOpen={actions.openRows}
    />
  );
};

const Profiles = ({ numbers, size, figure, actions }: Props) => {
  const table = drawnOf(numbers);
  return (
    <Tiles
      numbers={numbers}
      title={`Share of ${numbers.names[0]} within each ${numbers.names[1]}`}
      marks={{ bar: "its share", tick: "share of all" }}
      matrix={{ values: table.row_profile, ticks: table.rows.map(() => table.overall_profile) }}
      write={percent}
      size={size}
      figure={figure}
      onOpen={actions.openRows}
    />
  );
};

const Contributions = ({ numbers, size, figure, actions }: Props) => (
  <Tiles
    numbers={numbers}
    title="What each tile adds to χ²"
    marks={{ bar: "adds to χ²" }}
    matrix={{ values: drawnOf(numbers).contribution, ticks: null }}
    write={(value) => fixed(value, 1)}
    size={size}
    figure={figure}
    onOpen={actions.openRows}
  />
);

export default defineFigure({
  method: "association",
  Drawing: Observed,
  views: {
    profiles: { Drawing: Profiles, label: "Shares of each row", unless: () => undefined },
    contributions: { Drawing: Contributions, label: "What each adds to χ²", unless: () => undefined },
    layers: {
      Drawing: ({ numbers, size, figure }: Props) => <Layers numbers={numbers} size={size} figure={figure} />,
      label: "Each label of the third column",
      unless: ({ layers }: Props["numbers"]) => (layers.length > 0 ? undefined : "There is no third column."),
    },
  },
  pointsName: "Cells",
});
