import type { Box } from "../../marks/panel-layout";
import { type Numbers, squares } from "./layout";

const ACROSS = 40;
const DOWN = 25;

/** A thousand squares, the bad ones marked: of so many chances that one at least shows. */
export function Squares({ numbers, box }: { numbers: Numbers; box: Box }) {
  const { bad, each } = squares(numbers.dpo ?? 0);
  const step = Math.min((box.right - box.left) / ACROSS, (box.bottom - box.top) / DOWN);
  const side = step * 0.8;
  const at = (index: number) => `M${box.left + (index % ACROSS) * step} ${box.top + Math.floor(index / ACROSS) * step}`;
  const path = (from: number, to: number) =>
    Array.from({ length: to - from }, (_, k) => `${at(from + k)}h${side}v${side}h${-side}z`).join("");
  const words =
    bad === 0
      ? "no defect was found"
      : `${bad.toLocaleString("en-US")} of ${(1000 * each).toLocaleString("en-US")} chances hold a defect`;
  return (
    <g>
      <path d={path(bad, ACROSS * DOWN)} fill="var(--slate-soft)" />
      <path d={path(0, bad)} fill="var(--clay)" data-testid="bad-squares" />
      <text x={box.left} y={box.top + DOWN * step + 18} fontSize="13" fill="var(--ink-soft)">
        {words}
        {each > 1 && `; one square is ${each.toLocaleString("en-US")} chances`}
      </text>
    </g>
  );
}
