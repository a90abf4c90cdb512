import { useQuery } from "@tanstack/react-query";
import type { Schema } from "../../api/client";
import { listsQuery, type Plan } from "../../api/floor";
import type { Dataset } from "../../api/queries";
import { isNumeric } from "../../lib/format";
import { Button } from "../../parts/button";
import { Check, SelectField } from "../../parts/fields";
import { without, withPart } from "./form-list";
import { Column, Part, Row } from "./form-parts";
import { ListEditor } from "./list-editor";

const ASKED: [Plan["identifiers"][number]["asked"], string][] = [
  ["time", "date and time, filled in"],
  ["subgroup", "number of the subgroup, counted on"],
  ["piece", "number of the piece, counted"],
  ["choice", "one of a list"],
  ["text", "typed or scanned"],
  ["remark", "the remark of the entry"],
];

const KINDS: Record<string, (kind: Schema["Kind"]) => boolean> = {
  time: (kind) => kind === "date-time",
  subgroup: isNumeric,
  piece: isNumeric,
  choice: (kind) => kind === "category" || kind === "text",
  text: (kind) => kind === "category" || kind === "text",
  remark: (kind) => kind === "category" || kind === "text",
};

type Props = { plan: Plan; dataset: Dataset | undefined; set: (part: Partial<Plan>) => void };

/** What tells entries apart: filled in, counted on, chosen or typed. */
export function Identifiers({ plan: { identifiers }, dataset, set }: Props) {
  const lists = useQuery(listsQuery).data ?? [];
  const columns = (fits: (kind: Schema["Kind"]) => boolean) =>
    dataset?.columns.filter(({ kind }) => fits(kind)).map(({ name }) => name);
  return (
    <Part title="What tells entries apart">
      {identifiers.map((one, at) => {
        const change = (part: Partial<typeof one>) => set({ identifiers: withPart(identifiers, at, part) });
        const asks = one.asked === "choice" || one.asked === "text";
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
          <Row key={at} onRemove={() => set({ identifiers: without(identifiers, at) })}>
            <Column
              label="column"
              value={one.column}
              among={columns(KINDS[one.asked] ?? (() => true))}
              onChange={(column) => change({ column })}
            />
            <SelectField
              label="how it comes about"
              value={one.asked}
              onChoose={(asked) => change({ asked: asked as typeof one.asked })}
            >
              {ASKED.map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </SelectField>
            {one.asked === "choice" && (
              <SelectField
                label="list"
                value={String(one.list ?? "")}
                onChoose={(list) => change({ list: list ? Number(list) : null })}
              >
                <option value="">choose a list</option>
                {lists.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </SelectField>
            )}
            {asks && <Check label="required" checked={one.required} onChange={(required) => change({ required })} />}
            {asks && <Check label="names the person" checked={one.person} onChange={(person) => change({ person })} />}
            {asks && (
              <Check
                label="kept for the next entry"
                checked={one.remembered}
                onChange={(remembered) => change({ remembered })}
              />
            )}
          </Row>
        );
      })}
      <Button
        onClick={() =>
          set({
            identifiers: [
              ...identifiers,
              { column: "", asked: "text", required: false, remembered: true, list: null, person: false },
            ],
          })
        }
      >
        Add an identifier
      </Button>
      <ListEditor lists={lists} />
    </Part>
  );
}
