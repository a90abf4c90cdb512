import { curveBumpX, line } from "d3-shape";
import { useState } from "react";
import { fixed } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { type DrawingProps, NO_ACTIONS } from "../../study/figure";
import { CardButton } from "./card-button";
import { Desk } from "./desk/desk";
import { InputCard } from "./input-card";
import { layoutOf } from "./layout";
import { type Picked, type Pieces, piecesOf, spreadBy } from "./model";
import { usePicked } from "./picked";
import { ResponseCard } from "./response-card";

type Props = DrawingProps<"simulation">;

/** How tall the desk is on which a piece is changed; an input from a column shows its shapes besides. */
const deskHeight = (pieces: Pieces, { kind, place }: Picked) => {
  if (kind === "responses") return 146;
  if (kind === "controls") return 126;
  return pieces.inputs[place]?.column ? 262 : 190;
};

/** What drives what: inputs at the left, responses at the right, between them bands as thick as what flows. */
export function ModelPicture({ numbers, size, figure, spec, dataset, actions }: Props) {
  const [picked, setPicked] = usePicked();
  const [part, setPart] = useState<string | undefined>();
  const pieces = piecesOf(spec);
  const desk = picked ? deskHeight(pieces, picked) : 0;
  // On paper nothing is changed.
  const onPaper = actions === NO_ACTIONS;
  const room = { width: size.width, height: onPaper ? size.height : size.height - 44 - desk };
  const known = part !== undefined && numbers.parts.includes(part) ? part : undefined;
  const layout = layoutOf(numbers, known, room);
  const pick = (next: Picked) => {
    actions.attempt(null);
    setPicked(picked?.kind === next.kind && picked.place === next.place ? null : next);
  };
  const inputPicked = (place: number): Picked => {
    const input = numbers.inputs[place];
    const control = pieces.controls.findIndex(({ name }) => name.trim() === input?.control);
    return input?.control != null ? { kind: "controls", place: control } : { kind: "inputs", place };
  };
  const isPicked = (one: Picked) => picked?.kind === one.kind && picked.place === one.place;
  const spread = (place: number) => (by: number, done: boolean) => {
    const input = pieces.inputs[place];
    if (!input) return;
    const options = { inputs: pieces.inputs.map((old, at) => (at === place ? spreadBy(input, by) : old)) };
    if (done) actions.set(options);
    else actions.attempt(options);
  };
  const shareOf = (place: number) => {
    // Of the response that is judged: the last one shown that has shares.
    const response = layout.responses.filter(({ response: { shares } }) => shares).at(-1)?.response;
    return response?.shares?.[place]?.total ?? null;
  };
  const ends = [...layout.responses].sort((a, b) => a.box.left - b.box.left)[0];
  return (
    <div className="flex h-full flex-col">
      <Sheet figure={figure} size={room} label={labelOf(numbers)} reached>
        <Heading x={22} y={24}>
          What goes in
        </Heading>
        {ends && (
          <Heading x={ends.box.left} y={24}>
            {`What comes out of ${numbers.draws.toLocaleString("en-US")} draws`}
          </Heading>
        )}
        <g fill="none" stroke="var(--slate)">
          {layout.bands.map(({ key, path, thick, share }) => (
            <path
              key={key}
              d={line().curve(curveBumpX)(path) ?? ""}
              strokeWidth={thick}
              strokeOpacity={share === null || share < 0.01 ? 0.35 : 0.22 + 0.14 * Math.min(1, share)}
            />
          ))}
        </g>
        {layout.inputs.map((node) => (
          <InputCard
            key={node.input.name}
            node={node}
            share={shareOf(node.place)}
            picked={isPicked(inputPicked(node.place))}
            onPick={() => pick(inputPicked(node.place))}
            onSpread={
              !onPaper && node.input.control == null && pieces.inputs[node.place] ? spread(node.place) : undefined
            }
          />
        ))}
        {layout.controls.map(({ control, place, box }) => (
          <CardButton
            key={control.name}
            label={`Control ${control.name}: ${control.words}`}
            pressed={isPicked({ kind: "controls", place })}
            transform={`translate(${box.left},${box.top})`}
            onPress={() => pick({ kind: "controls", place })}
          >
            <rect
              width={box.width}
              height={box.height}
              rx="7"
              fill="var(--paper)"
              stroke={isPicked({ kind: "controls", place }) ? "var(--moss)" : "var(--hairline)"}
              strokeDasharray="4 3"
            />
            <text x="12" y="17" fontSize="13" fontWeight="600" fill="var(--ink)">
              {control.name}
              <tspan fontWeight="400" fill="var(--ink-soft)">
                {" control"}
              </tspan>
            </text>
            <text x="12" y="33" fontSize="12" fill="var(--ink-soft)">
              {control.words}
            </text>
          </CardButton>
        ))}
        {layout.responses.map((node) => (
          <ResponseCard
            key={node.response.name}
            node={node}
            picked={isPicked({ kind: "responses", place: node.place })}
            onPick={() => pick({ kind: "responses", place: node.place })}
          />
        ))}
        {layout.borders.map((words, index) => (
          <text
            key={words}
            x={room.width - 22}
            y={24 + index * 15}
            textAnchor="end"
            fontSize="12"
            fill="var(--ink-soft)"
          >
            {words}
          </text>
        ))}
        {layout.hidden > 0 && (
          <text x="22" y={room.height - 2} fontSize="12" fill="var(--ink-soft)">
            and {layout.hidden} more that drive less; they stand in the numbers below
          </text>
        )}
      </Sheet>
      {!onPaper && (
        <Desk
          pieces={pieces}
          parts={numbers.parts}
          part={known}
          dataset={dataset}
          spec={spec}
          picked={picked}
          height={desk}
          onPart={setPart}
          onPick={setPicked}
          actions={actions}
        />
      )}
    </div>
  );
}

const labelOf = ({ inputs, responses, draws }: Props["numbers"]) =>
  [
    `${inputs.length} inputs, ${draws} draws.`,
    ...responses.map(({ name, ppk, out }) =>
      [
        `${name}${ppk == null ? "" : `: Ppk ${fixed(ppk, 2)}`}`,
        out == null ? "" : `, ${Number((100 * out.total).toPrecision(2))} % out`,
      ].join(""),
    ),
  ].join(" ");
