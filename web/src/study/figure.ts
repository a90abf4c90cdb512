import type { ComponentType, ReactNode, RefObject } from "react";
import type { Schema } from "../api/client";
import type { Dataset, Spec, Study } from "../api/queries";

type Outcome = Schema["Outcome"];
type AnyNumbers = Outcome["numbers"];
export type Method = AnyNumbers["method"];
export type NumbersOf<M extends Method> = Extract<AnyNumbers, { method: M }>;
export type Size = { width: number; height: number };
export type Stretch = { first: number; last: number };

/** What a figure can ask of the page it stands on; on paper nothing answers. */
export type Actions = {
  /** Sets options of the statement. */
  set: (options: Record<string, unknown>) => void;
  /** Changes the statement from what it is by then. */
  change: (change: (spec: Spec) => Spec) => void;
  /** Shows what options would give, without saving them; null ends it. */
  attempt: (options: Record<string, unknown> | null) => void;
  /** Shows another view of the same answer; absent shows the first. */
  show: (view: string | undefined) => void;
  closer: (stretch: Stretch) => void;
  openRows: (stretch: Stretch) => void;
  /** Opens rows by their ids. */
  openIds: (rows: number[]) => void;
  /** Opens a study that asks something, or asks it anew. */
  ask: (spec: Spec, same: (other: Spec) => boolean) => void;
  choose: (address: string) => void;
  light: (letter: string | null) => void;
};

/** What a figure is drawn from. */
export type DrawingProps<M extends Method> = {
  numbers: NumbersOf<M>;
  notes: Schema["Note"][];
  spec: Spec;
  dataset: Dataset;
  /** What the answer is about, for titles. */
  name: string;
  limits: { lsl?: number | null; usl?: number | null };
  size: Size;
  /** The stretch of points in sight. */
  view: Stretch;
  /** What is switched on. */
  shown: Record<string, boolean>;
  signals: Schema["StudySignals"] | undefined;
  chosen: string | null;
  lit: string | null;
  figure: RefObject<SVGSVGElement | null>;
  actions: Actions;
};

/** What a figure is built from before there is an answer. */
export type UnansweredProps = {
  spec: Spec;
  dataset: Dataset;
  actions: Actions;
  /** Why there is none; absent while the statement is not complete. */
  problem: unknown;
};

/** Another view of the same answer. */
export type View<M extends Method> = {
  Drawing: ComponentType<DrawingProps<M>>;
  /** What it is called in the list of what the figure can show. */
  label?: string;
  /** Why there is none; absent when there is. */
  unless: (numbers: NumbersOf<M>) => string | undefined;
  /** A verdict and notes of its own. */
  margin?: (numbers: NumbersOf<M>) => Pick<Outcome, "verdict" | "notes">;
};

/** Marks that come and go. */
export type Shows<M extends Method> = {
  key: string;
  label: string;
  usual: boolean;
  unless?: (numbers: NumbersOf<M>) => string | undefined;
};

export type Figure<M extends Method> = {
  method: M;
  Drawing: ComponentType<DrawingProps<M>>;
  /** What stands in its place while there is no answer, of a question that is built in the figure. */
  Unanswered?: ComponentType<UnansweredProps>;
  views?: Record<string, View<M>>;
  switches?: Shows<M>[];
  /** How many points are asked for in a width; few are enough unless said otherwise. */
  points?: (width: number) => number;
  /** How many points there are to go closer to; absent for a figure without stretch and signals. */
  total?: (numbers: NumbersOf<M>) => number;
  /** What stands between the verdict and the notes. */
  aside?: (numbers: NumbersOf<M>, name: string) => ReactNode;
  /** What its long table is made of. */
  pointsName?: string;
};

/** A figure as the page takes it, which hands it the numbers of its own method only. */
export type AnyFigure = Figure<Method>;

/** Declares the figure of a method. */
export const defineFigure = <M extends Method>(figure: Figure<M>): AnyFigure => figure as unknown as AnyFigure;

const MODULES = import.meta.glob<{ default: AnyFigure }>("../figures/*/index.tsx");
const loaded = new Map<string, Promise<AnyFigure>>();

/** The figure of a method, read when it is first wanted. */
export function figureOf(method: string): Promise<AnyFigure> {
  const known = loaded.get(method);
  if (known) return known;
  const read = MODULES[`../figures/${method}/index.tsx`];
  const figure = read
    ? read().then((module) => module.default)
    : Promise.reject(new Error(`This version draws no figure of “${method}”.`));
  loaded.set(method, figure);
  return figure;
}

/** Which marks of a figure show in a study: as usual, where the study does not say otherwise. */
export const shownIn = (figure: AnyFigure, study: Study): Record<string, boolean> =>
  Object.fromEntries((figure.switches ?? []).map(({ key, usual }) => [key, study.shown[key] ?? usual]));

/** What nothing answers to, for paper. */
export const NO_ACTIONS: Actions = {
  set: () => undefined,
  change: () => undefined,
  attempt: () => undefined,
  show: () => undefined,
  closer: () => undefined,
  openRows: () => undefined,
  openIds: () => undefined,
  ask: () => undefined,
  choose: () => undefined,
  light: () => undefined,
};
