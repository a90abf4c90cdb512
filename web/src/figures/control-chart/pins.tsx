import { memo } from "react";
import type { Schema } from "../../api/client";
import { Letter } from "../../marks/letter";
import type { PanelLayout, Signal } from "../../marks/panel-layout";
import { ringRadius } from "../../marks/panel-marks";
import { signalKey } from "../../marks/tone";

type Note = Schema["Note"];

type Props = {
  layout: PanelLayout;
  notes: Note[];
  /** What is known about the signals of the study, by panel, pattern and first point. */
  known: Map<string, Schema["KnownSignal"]>;
  /** Findings whose signal is no longer there. */
  past: Schema["PastSignal"][];
  /** The address of the chosen signal. */
  chosen: string | null;
  lit: string | null;
  onLight: (letter: string | null) => void;
  onChoose: (address: string) => void;
};

/** Rings around points, brackets under runs, flags where a cause is given, and the letters of the notes. */
export const Pins = memo(function Pins({ layout, notes, known, past, chosen, lit, onLight, onChoose }: Props) {
  const here = notes.filter((note) => note.pin?.panel === layout.index);
  const noteOf = ({ pattern, first, last }: Signal) =>
    here.find(
      (note) => note.pin?.pattern === pattern && (note.pin.first ?? -1) <= last && (note.pin.last ?? -1) >= first,
    );
  const state = (signal: Signal) => {
    const one = known.get(signalKey(layout.index, signal.pattern, signal.first));
    const note = noteOf(signal);
    return {
      note,
      flagged: one?.finding?.cause != null,
      strong: (note !== undefined && note.letter === lit) || (one !== undefined && one.address === chosen),
      choose: one && (() => onChoose(one.address)),
    };
  };
  return (
    <g>
      {layout.numbers.signals
        .filter((signal) => signal.pattern === "beyond-limits")
        .map((signal) => (
          <Rings key={signal.first} layout={layout} signal={signal} {...state(signal)} />
        ))}
      {layout.brackets.map(({ signal, left, right, y }) => {
        const { note, flagged, strong, choose } = state(signal);
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the keys [ and ] and the margin choose signals too
          <g key={`${signal.pattern} ${signal.first}`} onClick={choose} cursor={choose && "pointer"}>
            <path d={`M${left} ${y - 8}h${right - left}v12H${left}z`} fill="transparent" stroke="none" />
            <path
              d={`M${left} ${y - 6}V${y}H${right}V${y - 6}`}
              fill="none"
              stroke="var(--plum)"
              strokeWidth={strong ? 3.4 : 2}
            />
            {flagged && <Flag x={left + 6} y={y - 2} />}
            {note && <Letter note={note} x={(left + right) / 2} y={y} lit={strong} onLight={onLight} />}
          </g>
        );
      })}
      {(layout.index === 0 ? past : []).map(({ address, first, finding }) => {
        const point = layout.numbers.points.find((point) => point.i === first);
        if (finding.cause == null || point?.value == null) return null;
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the margin lists these causes too
          <g key={address} onClick={() => onChoose(address)} cursor="pointer">
            <Flag x={layout.x(point.i)} y={layout.y(point.value) - 5} />
          </g>
        );
      })}
      {here.map((note) => {
        const place = pointPlace(layout, note);
        return place && <Letter key={note.letter} note={note} {...place} lit={note.letter === lit} onLight={onLight} />;
      })}
    </g>
  );
});

type RingsProps = {
  layout: PanelLayout;
  signal: Signal;
  flagged: boolean;
  strong: boolean;
  choose: (() => void) | undefined;
};

/** A ring around every point beyond a control limit, with a flag when its cause is given. */
function Rings({ layout, signal, flagged, strong, choose }: RingsProps) {
  const { x, y, numbers } = layout;
  const points = numbers.points.filter((point) => point.i >= signal.first && point.i <= signal.last);
  const radius = ringRadius(numbers.points.length);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keys [ and ] and the margin choose signals too
    <g onClick={choose} cursor={choose && "pointer"}>
      {points.map((point) =>
        point.value == null ? null : (
          <circle
            key={point.i}
            cx={x(point.i)}
            cy={y(point.value)}
            r={radius}
            fill="transparent"
            stroke="var(--plum)"
            strokeWidth={strong ? 3.4 : 2}
          />
        ),
      )}
      {flagged && points[0]?.value != null && <Flag x={x(points[0].i)} y={y(points[0].value) - radius} />}
    </g>
  );
}

/** A small flag: the cause is given. */
function Flag({ x, y }: { x: number; y: number }) {
  return (
    <g data-testid="flag">
      <path d={`M${x} ${y}v-15`} stroke="var(--plum)" strokeWidth="1.6" />
      <path d={`M${x} ${y - 15}l9 3.5l-9 3.5z`} fill="var(--plum)" />
    </g>
  );
}

/** Where a note about one point or one value puts its letter; runs carry theirs on the bracket. */
function pointPlace({ numbers, box, x, y, brackets }: PanelLayout, note: Note) {
  const pin = note.pin;
  if (!pin) return null;
  if (pin.first == null) return pin.value == null ? null : { x: box.right - 12, y: y(pin.value) };
  const isRun = brackets.some(({ signal }) => signal.pattern === pin.pattern && signal.first === pin.first);
  const [low = 0, high = 0] = x.domain();
  // A note about the start of a phase stands at its hairline.
  if (!pin.pattern)
    return pin.first >= low && pin.first <= high ? { x: x(pin.first - 0.5) + 15, y: box.top - 11 } : null;
  const point = numbers.points.find((point) => point.i === pin.first);
  if (isRun || point?.value == null) return null;
  const [cx, cy] = [x(point.i), y(point.value)];
  // Beside the ring, turned inwards at the edges of the panel.
  const right = cx + 30 < box.right;
  const up = cy - 22 > box.top - 10;
  return { x: cx + (right ? 16 : -16), y: cy + (up ? -12 : 14) };
}
