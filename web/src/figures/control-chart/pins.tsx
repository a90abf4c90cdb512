import type { Schema } from "../../api/client";
import type { PanelLayout } from "./layout";

type Note = Schema["Note"];

type Props = { layout: PanelLayout; notes: Note[]; lit: string | null; onLight: (letter: string | null) => void };

const COLOURS: Record<Note["tone"], string> = {
  alarm: "var(--plum)",
  caution: "var(--ochre)",
  calm: "var(--moss)",
  unsure: "var(--ink-soft)",
};

export const toneColour = (tone: Note["tone"]) => COLOURS[tone];

/** Brackets under runs, and the letters of the notes at the places they are about. */
export function Pins({ layout, notes, lit, onLight }: Props) {
  const here = notes.filter((note) => note.pin?.panel === layout.index);
  const noteOf = (pattern: string, first: number, last: number) =>
    here.find(
      (note) => note.pin?.pattern === pattern && (note.pin.first ?? -1) <= last && (note.pin.last ?? -1) >= first,
    );
  return (
    <g>
      {layout.brackets.map(({ signal, left, right, y }) => {
        const note = noteOf(signal.pattern, signal.first, signal.last);
        const strong = note !== undefined && note.letter === lit;
        return (
          <g key={`${signal.pattern} ${signal.first}`}>
            <path
              d={`M${left} ${y - 6}V${y}H${right}V${y - 6}`}
              fill="none"
              stroke="var(--plum)"
              strokeWidth={strong ? 3.4 : 2}
            />
            {note && <Letter note={note} x={(left + right) / 2} y={y} lit={strong} onLight={onLight} />}
          </g>
        );
      })}
      {here.map((note) => {
        const place = pointPlace(layout, note);
        return place && <Letter key={note.letter} note={note} {...place} lit={note.letter === lit} onLight={onLight} />;
      })}
    </g>
  );
}

/** Where a note about one point or one value puts its letter; runs carry theirs on the bracket. */
function pointPlace({ numbers, box, x, y, brackets }: PanelLayout, note: Note) {
  const pin = note.pin;
  if (!pin) return null;
  if (pin.first == null) return pin.value == null ? null : { x: box.right - 12, y: y(pin.value) };
  const isRun = brackets.some(({ signal }) => signal.pattern === pin.pattern && signal.first === pin.first);
  const point = numbers.points.find((point) => point.i === pin.first);
  if (isRun || point?.value == null) return null;
  const [cx, cy] = [x(point.i), y(point.value)];
  // Beside the ring, turned inwards at the edges of the panel.
  const right = cx + 30 < box.right;
  const up = cy - 22 > box.top - 10;
  return { x: cx + (right ? 16 : -16), y: cy + (up ? -12 : 14) };
}

type LetterProps = { note: Note; x: number; y: number; lit: boolean; onLight: (letter: string | null) => void };

function Letter({ note, x, y, lit, onLight }: LetterProps) {
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
