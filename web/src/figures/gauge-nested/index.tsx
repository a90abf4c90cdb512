import { ShareDial } from "../../marks/gauge/share-dial";
import { Staircase } from "../../marks/gauge/staircase";
import { type DrawingProps, defineFigure } from "../../study/figure";

export default defineFigure({
  method: "gauge-nested",
  Drawing: ({ numbers, name, size, figure, notes, lit, actions }: DrawingProps<"gauge-nested">) => (
    <Staircase
      numbers={numbers}
      name={name}
      size={size}
      figure={figure}
      title="Every reading, operator beside operator, each with parts of their own"
      notes={notes}
      lit={lit}
      onLight={actions.light}
    />
  ),
  aside: ({ share, basis, share_ci95 }) => <ShareDial share={share} basis={basis} interval={share_ci95} />,
  pointsName: "Readings",
});
