import type { Schema } from "../api/client";
import type { Writer } from "../lib/format";

type Numbers = Schema["ControlChartNumbers"];

/** What a panel shows, in words: of the location panel with what is measured. */
export function panelTitle(numbers: Numbers, panel: Schema["PanelNumbers"], name: string, writer: Writer): string {
  const words = panelWords(numbers, panel);
  const unit = writer.unit && ` (${writer.unit})`;
  return panel === numbers.panels[0] && name ? `${words}, ${name}${unit}` : `${words}${unit}`;
}

/** The size of the samples, when it is one. */
function sampleSize(panel: Schema["PanelNumbers"]): string {
  const sizes = new Set(panel.points.map((point) => point.n).filter((n) => n > 0));
  const [size] = sizes;
  return sizes.size === 1 && size !== undefined && size > 1 ? ` of ${size}` : "";
}

export function panelWords(numbers: Numbers, panel: Schema["PanelNumbers"]): string {
  switch (panel.name) {
    case "individuals":
      return numbers.chart === "ratio" ? "Share or rate as single values" : "Each value";
    case "moving-range":
      return numbers.chart === "xbar-between" ? "Step from mean to mean" : "Step from value to value";
    case "mean":
      return `Mean${sampleSize(panel)}`;
    case "range":
      return "Range within sample";
    case "sd":
      return "Sd within sample";
    case "proportion":
      return "Share of bad pieces";
    case "count":
      return numbers.chart === "np" ? "Bad pieces" : "Blemishes";
    case "rate":
      return "Blemishes per unit";
    case "ewma":
      return "Weighted moving average";
    case "cusum":
      return "Sums above and below the centre";
    case "deviation":
      return "Deviation from target";
    case "standardised-deviation":
      return "Deviation from target, in sd of the part";
    case "pieces-between":
      return "Pieces between events";
    case "time-between":
      return "Time between events";
    default:
      return panel.name;
  }
}
