import { counted, grouped } from "../../lib/format";
import { Button } from "../../parts/button";
import { type Range, sizeOf } from "./range";
import { SendOut } from "./send-out";
import type { Shown } from "./shown";
import type { useRange } from "./use-range";

type Props = {
  shown: Shown;
  range: Range;
  /** The numbers that stand in it, where all of it is read. */
  numbers: number[] | null;
  /** Whether it is of whole rows. */
  whole: boolean;
  /** Whether all rows show as they stand, so that there is a place between two of them. */
  plain: boolean;
  block: ReturnType<typeof useRange>;
};

/** A chosen block: how large it is, what its numbers come to, and what can be done with it; whole rows come and go. */
export function RangeBar({ shown, range, numbers, whole, plain, block }: Props) {
  const { down, across, cells } = sizeOf(range);
  const sum = numbers?.reduce((sum, number) => sum + number, 0) ?? 0;
  const short = (value: number) => String(Number(value.toPrecision(6)));
  const deeds: [string, () => void][] = [
    ["Copy", () => block.copy()],
    ...(down > 1 ? [["Fill down", block.fillDown] as [string, () => void]] : []),
    ["Clear", block.clear],
    ...(whole
      ? ([
          ...(plain
            ? [
                ["Insert above", block.insertRows],
                ["Duplicate rows", block.duplicateRows],
              ]
            : []),
          ["Delete rows", block.deleteRows],
        ] as [string, () => void][])
      : []),
  ];
  return (
    <div className="absolute right-0 top-full z-10 mt-1.5 flex items-center gap-2.5 rounded-full bg-tint pl-4 pr-2 text-[13px]">
      <span role="status">
        {whole
          ? counted(down, "row", "rows")
          : `${counted(down, "row", "rows")} × ${counted(across, "column", "columns")}, ${grouped(cells)} cells`}
        {!whole && numbers && numbers.length > 1 && `; mean ${short(sum / numbers.length)}, sum ${short(sum)}`}
      </span>
      {deeds.map(([words, deed]) => (
        <Button key={words} look="quiet" onClick={deed}>
          {words}
        </Button>
      ))}
      <SendOut shown={shown} range={range}>
        <Button look="quiet">Send out</Button>
      </SendOut>
    </div>
  );
}
