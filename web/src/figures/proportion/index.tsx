import { type DrawingProps, defineFigure } from "../../study/figure";
import { Claim } from "./claim";
import { PlanCurve } from "./plan";
import { TwoSamples } from "./two-samples";

export default defineFigure({
  method: "proportion",
  Drawing: ({ numbers, name, size, figure }: DrawingProps<"proportion">) => {
    switch (numbers.samples_taken) {
      case "one":
        return <Claim numbers={numbers} name={name} size={size} figure={figure} />;
      case "two":
        return <TwoSamples two={numbers} size={size} figure={figure} />;
      case "planned":
        return <PlanCurve planned={numbers} size={size} figure={figure} />;
    }
  },
  pointsName: "Counts",
});
