import { type DrawingProps, defineFigure } from "../../study/figure";
import { ModelPicture } from "./picture";
import { SettingsPicture } from "./settings";
import { TighteningPicture } from "./tightening";
import { Unanswered } from "./unanswered";

type Props = DrawingProps<"simulation">;

export default defineFigure({
  method: "simulation",
  Drawing: ModelPicture,
  Unanswered,
  views: {
    tightening: {
      Drawing: TighteningPicture,
      label: "What tightening pays",
      unless: ({ inputs }: Props["numbers"]) => (inputs.length > 0 ? undefined : "Nothing varies."),
    },
    settings: {
      Drawing: SettingsPicture,
      label: "Which settings do better",
      unless: ({ controls }: Props["numbers"]) => (controls.length > 0 ? undefined : "There is no control to set."),
    },
  },
  pointsName: "Draws",
});
