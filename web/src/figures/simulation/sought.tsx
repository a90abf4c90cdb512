import { Popover } from "radix-ui";
import { typedNumber } from "../../lib/format";
import { useDraft } from "../../lib/use-draft";
import { Button } from "../../parts/button";
import type { Response, Search, Weighed } from "./model";

type Props = { search: Search; responses: Response[]; onChange: (search: Search) => void };

/** Which responses a search is about, how much each counts and, when it aims at one, its target. */
export function SearchGoal({ search, responses, onChange }: Props) {
  const aims = search.goal === "target";
  const can = responses.filter(({ lsl, usl }) => aims || lsl != null || usl != null);
  const own = search.response ? [{ name: search.response, target: search.target }] : search.responses;
  const usual = can.filter(({ target }) => !aims || target != null).map(({ name }): Weighed => ({ name }));
  const counted: Weighed[] = own?.length ? own : usual;
  const of = (name: string) => counted.find((one) => one.name.trim() === name.trim());
  const save = (next: Weighed[]) => {
    const plain = next.every(({ weight = 1, target }) => weight === 1 && target == null);
    const isUsual =
      plain && next.length === usual.length && usual.every(({ name }) => next.some((one) => one.name === name));
    const { goal, controls } = search;
    onChange({ goal, ...(controls && { controls }), ...(!isUsual && next.length > 0 && { responses: next }) });
  };
  const put = (name: string, part: Partial<Weighed>) =>
    save(can.flatMap((one) => (one.name === name ? [{ ...of(name), name, ...part }] : (of(one.name) ?? []))));
  const [only] = counted;
  const words = counted.length === 1 && only ? `of ${only.name}` : `of ${counted.length} responses`;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button look="quiet" aria-label={`Responses searched for: ${counted.map(({ name }) => name).join(", ")}`}>
          {words} ▾
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={6}
          aria-label="What counts in the search"
          className="z-40 max-h-80 overflow-y-auto rounded-xl border border-hairline bg-sheet p-3.5 shadow-xl"
        >
          <table className="text-[14px]">
            <thead>
              <tr className="text-left text-[12.5px] text-ink-soft">
                <th className="pr-4 font-normal">response</th>
                <th className="pr-4 font-normal">weight</th>
                {aims && <th className="font-normal">target</th>}
              </tr>
            </thead>
            <tbody>
              {can.map(({ name, target }) => (
                <tr key={name}>
                  <td className="py-1 pr-4">
                    <label className="flex items-center gap-1.5">
                      <input
                        type="checkbox"
                        checked={of(name) !== undefined}
                        onChange={({ target: { checked } }) =>
                          checked ? put(name, {}) : save(counted.filter((one) => one.name.trim() !== name.trim()))
                        }
                      />
                      {name}
                    </label>
                  </td>
                  <td className="py-0.5 pr-4">
                    <NumberField
                      label={`Weight of ${name}`}
                      stored={of(name)?.weight ?? 1}
                      fits={(value) => value !== null && value > 0 && value <= 1e9}
                      onKeep={(weight) => put(name, { weight: weight ?? 1 })}
                    />
                  </td>
                  {aims && (
                    <td className="py-0.5">
                      <NumberField
                        label={`Target of ${name}`}
                        stored={of(name)?.target ?? target ?? null}
                        fits={() => true}
                        onKeep={(next) => put(name, { target: next === target ? null : next })}
                      />
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-1.5 max-w-72 text-[12.5px] text-ink-soft">
            {search.goal === "largest-ppk"
              ? "The worst of them counts; weights part what is equal."
              : "Each counts as much as its weight."}
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

type FieldProps = {
  label: string;
  stored: number | null;
  fits: (value: number | null) => boolean;
  onKeep: (value: number | null) => void;
};

function NumberField({ label, stored, fits, onKeep }: FieldProps) {
  const read = (text: string) => {
    const value = typedNumber(text);
    return value === undefined || !fits(value) ? undefined : value;
  };
  const field = useDraft(
    stored === null ? "" : String(stored),
    (text) => {
      const value = read(text);
      if (value !== undefined) onKeep(value);
    },
    { fits: (text) => read(text) !== undefined },
  );
  return (
    <input
      aria-label={label}
      inputMode="decimal"
      {...field}
      className="h-[28px] w-20 rounded-md border border-hairline bg-paper px-2 aria-invalid:border-clay"
    />
  );
}
