import { useQuery } from "@tanstack/react-query";
import type { Plan } from "../../api/floor";
import { methodsQuery } from "../../api/queries";
import { Button } from "../../parts/button";
import { SelectField } from "../../parts/fields";
import { without, withPart } from "./form-list";
import { dataAddress, Lines, Part, Row } from "./form-parts";

type Props = { plan: Plan; set: (part: Partial<Plan>) => void };

/** Causes to choose from, and what is to be done about values beyond specification and signals. */
export function Reactions({ plan: { causes, reactions }, set }: Props) {
  const cards = useQuery(methodsQuery).data ?? [];
  const items = cards
    .filter(({ method }) => method === "control-chart")
    .flatMap(({ slots }) => slots.flatMap((slot) => (slot.kind === "checklist" ? slot.items : [])));
  const patterns = items.filter(({ value }, at) => items.findIndex((one) => one.value === value) === at);
  return (
    <Part title="What is to be done when something is wrong">
      <Lines label="causes to choose from, a line each" lines={causes} onChange={(causes) => set({ causes })} />
      {reactions.map((one, at) => {
        const change = (part: Partial<typeof one>) => set({ reactions: withPart(reactions, at, part) });
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
          <Row key={at} onRemove={() => set({ reactions: without(reactions, at) })}>
            <SelectField label="on" value={one.on} onChoose={(on) => change({ on: on as typeof one.on })}>
              <option value="beyond-specification">a value beyond specification</option>
              <option value="signal">a signal of the chart</option>
            </SelectField>
            {one.on === "signal" && (
              <SelectField
                label="kind of signal"
                value={one.pattern ?? ""}
                onChoose={(pattern) => change({ pattern: pattern || null })}
              >
                <option value="">any</option>
                {patterns.map(({ value, label }) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
              </SelectField>
            )}
            <label className="flex-1 text-[12.5px] text-ink-soft">
              what to do
              <textarea
                rows={2}
                value={one.words}
                onChange={(event) => change({ words: event.target.value })}
                className="block w-full min-w-64 rounded-md border border-hairline bg-paper px-2 py-1 text-[15px] text-ink"
              />
            </label>
            <label className="text-[12.5px] text-ink-soft">
              picture (if any)
              <input
                type="file"
                accept="image/png,image/jpeg,image/svg+xml"
                onChange={async ({ target }) =>
                  change({ picture: target.files?.[0] ? await dataAddress(target.files[0]) : null })
                }
                className="block w-56 text-[13px]"
              />
            </label>
            {one.picture && <img src={one.picture} alt="" className="h-12 rounded" />}
          </Row>
        );
      })}
      <Button
        onClick={() =>
          set({ reactions: [...reactions, { on: "beyond-specification", words: "", pattern: null, picture: null }] })
        }
      >
        Add a reaction
      </Button>
    </Part>
  );
}
