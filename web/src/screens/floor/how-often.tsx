import type { Plan } from "../../api/floor";
import { Button } from "../../parts/button";
import { NumberField, SelectField, TextField } from "../../parts/fields";
import { Part, Row } from "./form-parts";

type Props = { plan: Plan; set: (part: Partial<Plan>) => void };

const BY = [
  ["", "whenever somebody measures"],
  ["minutes", "by the clock"],
  ["pieces", "by pieces made"],
] as const;

/** Minutes after midnight as a clock time. */
const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;

/** A clock time as minutes after midnight; undefined while it is none. */
function minutesOf(text: string): number | undefined {
  const [, hour, minute] = /^(\d{1,2}):(\d{2})$/.exec(text) ?? [];
  const minutes = Number(hour) * 60 + Number(minute);
  return minutes < 24 * 60 ? minutes : undefined;
}

/** How often an entry is due, when it is late, and the shifts by which missed ones are counted. */
export function HowOften({ plan, set }: Props) {
  const { every, shifts } = plan;
  const by = every ? (every.pieces > 0 ? "pieces" : "minutes") : "";
  const choose = (by: string) => {
    if (by === "") set({ every: null });
    else if (by === "pieces") set({ every: { minutes: 0, pieces: 50, late_after: 10 } });
    else set({ every: { minutes: 60, pieces: 0, late_after: 10 } });
  };
  return (
    <Part title="How often">
      <div className="flex flex-wrap items-end gap-3">
        <SelectField label="an entry is due" value={by} onChoose={choose}>
          {BY.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
        {every && by !== "" && (
          <>
            <NumberField
              key={by}
              label={`${by} from one to the next`}
              value={every[by as "minutes" | "pieces"]}
              onChange={(step) => set({ every: { ...every, [by]: step ?? 0 } })}
            />
            <NumberField
              key={`late ${by}`}
              label={`late after ${by}`}
              value={every.late_after}
              onChange={(late) => set({ every: { ...every, late_after: late ?? 0 } })}
            />
          </>
        )}
      </div>
      {by === "pieces" && (
        <p className="text-[13px] text-ink-soft">
          Pieces are counted at each station, by its page or by the counter of its machine.
        </p>
      )}
      {by !== "" && (
        <div className="flex w-full flex-col gap-2">
          {shifts.map((shift, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
            <Row key={at} onRemove={() => set({ shifts: shifts.filter((_, place) => place !== at) })}>
              <TextField
                label="shift"
                value={shift.name}
                onType={(name) => set({ shifts: shifts.map((one, place) => (place === at ? { ...one, name } : one)) })}
              />
              <label className="text-[12.5px] text-ink-soft">
                begins at
                <input
                  type="time"
                  value={clock(shift.begins)}
                  onChange={({ target }) => {
                    const begins = minutesOf(target.value);
                    if (begins !== undefined)
                      set({ shifts: shifts.map((one, place) => (place === at ? { ...one, begins } : one)) });
                  }}
                  className="block h-[30px] rounded-md border border-hairline bg-paper px-2 text-[15px] text-ink"
                />
              </label>
            </Row>
          ))}
          <div>
            <Button
              onClick={() => set({ shifts: [...shifts, { name: "", begins: (shifts.at(-1)?.begins ?? 300) + 60 }] })}
            >
              Add a shift
            </Button>
          </div>
        </div>
      )}
    </Part>
  );
}
