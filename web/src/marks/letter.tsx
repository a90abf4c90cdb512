import type { Schema } from "../api/client";
import { toneColour } from "./tone";

type Props = { note: Schema["Note"]; x: number; y: number; lit: boolean; onLight: (letter: string | null) => void };

/** The letter of a note at its place in a figure. */
export function Letter({ note, x, y, lit, onLight }: Props) {
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: hovering only lights the note, whose text is beside the figure
    <g transform={`translate(${x},${y})`} onMouseEnter={() => onLight(note.letter)} onMouseLeave={() => onLight(null)}>
      <circle r={lit ? 11 : 9} fill={toneColour(note.tone)} />
      <text
        y="4"
        textAnchor="middle"
        fontSize="12"
        fontWeight="700"
        fontFamily="Fraunces Variable, Georgia, serif"
        fill="var(--sheet)"
      >
        {note.letter}
      </text>
    </g>
  );
}
