import type { ValueFormat } from "../../lib/format";
import type { Cell } from "./layout";

/** The bar pointed at: its cell and its place. */
export type Chosen = { cell: number; bin: number };

/** What each of the pictures is drawn from. */
export type PictureProps = {
  cells: Cell[];
  writer: ValueFormat;
  sameScale: boolean;
  /** Marks that come and go. */
  shown: Record<string, boolean>;
  chosen: Chosen | null;
  onChoose: (chosen: Chosen | null) => void;
  onTryWidth: (width: number) => void;
  onTakeWidth: (width: number) => void;
};
