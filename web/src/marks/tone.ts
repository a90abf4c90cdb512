import type { Schema } from "../api/client";

const COLOURS: Record<Schema["Tone"], string> = {
  alarm: "var(--plum)",
  caution: "var(--ochre)",
  calm: "var(--moss)",
  unsure: "var(--ink-soft)",
};

/** The colour of good and bad news. */
export const toneColour = (tone: Schema["Tone"]) => COLOURS[tone];

/** By which a note and a signal know each other. */
export const signalKey = (panel: number, pattern: string, first: number) => `${panel} ${pattern} ${first}`;
