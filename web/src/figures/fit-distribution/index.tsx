import { defineFigure } from "../../study/figure";
import { ShapesPicture } from "./shapes";

export default defineFigure({ method: "fit-distribution", Drawing: ShapesPicture, pointsName: "Shapes" });
