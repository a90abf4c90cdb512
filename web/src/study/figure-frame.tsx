import { ChevronLeft, ChevronRight, Download, Layers, Minus, Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode, RefObject } from "react";
import { savePng, saveSvg, saveText } from "../lib/export-figure";
import { grouped } from "../lib/format";
import { Button } from "../parts/button";
import { notifyProblem } from "../parts/notices";

type Props = {
  children: ReactNode;
  frame: RefObject<HTMLDivElement | null>;
  figure: RefObject<SVGSVGElement | null>;
  caption: string;
  fileName: string;
  /** Where the tables of the answer are. */
  tablesAddress: string;
  /** The statement as it runs in the shell. */
  statement: string;
  printAddress: string;
  busy: boolean;
  /** What the table of points is made of, when not of points. */
  pointsName?: string;
  /** The stretch in sight; null when it is all. */
  stretch?: { first: number; last: number } | null;
  /** Closer or further; absent for a figure that has no stretch. */
  onZoom?: (factor: number) => void;
  onMove?: (share: number) => void;
  /** What the figure can show on request. */
  switches: Switch[];
  /** The way back from another figure of the same answer; the tools to move about are then away. */
  onBack?: () => void;
};

export type Switch = { label: string; on: boolean; onSwitch: (on: boolean) => void; unless?: string };

const TOOL = "flex h-8 w-8 items-center justify-center rounded-md text-ink-soft hover:bg-tint disabled:opacity-40";

/** The sheet that a figure lies on, with its tools: closer, further, send out. */
export function FigureFrame(props: Props) {
  const { children, frame, figure, caption, fileName, tablesAddress, busy, stretch, onZoom, onMove } = props;
  const { switches, onBack } = props;
  const save = (how: typeof saveSvg | typeof savePng) => {
    if (figure.current) Promise.resolve(how(figure.current, caption, fileName)).catch(notifyProblem);
  };
  return (
    <section
      aria-label="Figure"
      aria-busy={busy}
      className="relative min-w-0 flex-1 rounded-xl border border-hairline bg-sheet max-lg:h-[480px] max-lg:flex-none"
    >
      <div className="no-print absolute right-2.5 top-1 z-10 flex">
        {onBack && (
          <Button look="plain" className="mr-1 mt-1 h-7! text-[13px]" onClick={onBack}>
            Back to the chart
          </Button>
        )}
        {!onBack && stretch && (
          <>
            <button type="button" className={TOOL} aria-label="Earlier" title="Earlier" onClick={() => onMove?.(-0.5)}>
              <ChevronLeft size={17} aria-hidden />
            </button>
            <span className="self-center text-[13px] text-ink-soft">
              {grouped(stretch.first + 1)} to {grouped(stretch.last + 1)}
            </span>
            <button type="button" className={TOOL} aria-label="Later" title="Later" onClick={() => onMove?.(0.5)}>
              <ChevronRight size={17} aria-hidden />
            </button>
          </>
        )}
        {!onBack && onZoom && (
          <>
            <button type="button" className={TOOL} aria-label="Closer" title="Closer" onClick={() => onZoom(0.5)}>
              <Plus size={17} aria-hidden />
            </button>
            <button
              type="button"
              className={TOOL}
              aria-label="Further"
              title="Further"
              disabled={!stretch}
              onClick={() => onZoom(2)}
            >
              <Minus size={17} aria-hidden />
            </button>
          </>
        )}
        {!onBack && switches.length > 0 && <Switches switches={switches} />}
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger className={TOOL} aria-label="Send out" title="Send out">
            <Download size={17} aria-hidden />
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" className="z-30 rounded-lg border border-hairline bg-sheet p-1 shadow-xl">
              <MenuItem onSelect={() => save(saveSvg)}>Figure as SVG</MenuItem>
              <MenuItem onSelect={() => save(savePng)}>Figure as PNG</MenuItem>
              <MenuItem onSelect={() => window.location.assign(props.printAddress)}>Page to print</MenuItem>
              <MenuItem onSelect={() => window.location.assign(`${tablesAddress}/tables/points.csv`)}>
                {props.pointsName ?? "Points"} as CSV
              </MenuItem>
              <MenuItem onSelect={() => window.location.assign(`${tablesAddress}/tables/points.parquet`)}>
                {props.pointsName ?? "Points"} as Parquet
              </MenuItem>
              <MenuItem onSelect={() => window.location.assign(`${tablesAddress}/summary.xlsx`)}>
                Numbers as workbook
              </MenuItem>
              <MenuItem onSelect={() => saveText(props.statement, `${fileName}.json`, "application/json")}>
                Statement as JSON
              </MenuItem>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      <div ref={frame} className="absolute inset-0 overflow-hidden">
        {children}
      </div>
    </section>
  );
}

/** Marks that come and go; one that makes no sense says why. */
function Switches({ switches }: { switches: Switch[] }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={TOOL} aria-label="Show" title="Show">
        <Layers size={16} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-30 w-72 rounded-lg border border-hairline bg-sheet p-1 shadow-xl"
        >
          {switches.map(({ label, on, onSwitch, unless }) => (
            <DropdownMenu.CheckboxItem
              key={label}
              checked={on && !unless}
              disabled={unless !== undefined}
              onCheckedChange={onSwitch}
              className="grid cursor-pointer grid-cols-[22px_1fr] rounded-md px-2 py-1.5 outline-none data-[highlighted]:bg-tint"
            >
              <span>{on && !unless ? "✓" : ""}</span>
              <span className={unless ? "text-ink-soft" : ""}>
                {label}
                {unless && <span className="block text-[13px]">{unless}</span>}
              </span>
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export function MenuItem({ onSelect, children }: { onSelect: () => void; children: ReactNode }) {
  return (
    <DropdownMenu.Item
      onSelect={onSelect}
      className="cursor-pointer rounded-md px-3 py-1.5 outline-none data-[highlighted]:bg-tint"
    >
      {children}
    </DropdownMenu.Item>
  );
}
