import { ArrowRight } from "lucide-react";
import { useId } from "react";
import type { Dataset, FilterStep, Spec } from "../../api/queries";
import type { Actions } from "../../study/figure";

type Props = {
  kind: { label: string; place: number };
  /** All its names. */
  names: string[];
  /** The other kinds. */
  others: string[];
  spec: Spec;
  dataset: Dataset;
  actions: Actions;
  onClose: () => void;
};

type Renames = Record<string, string>;
const LEVELS_MOST = 5;

const only = (name: string | string[] | undefined): string | undefined => (typeof name === "string" ? name : name?.[0]);

/** What can be done with a kind: its rows, its course over time, the next level down, or counting it as another. */
export function KindCard({ kind, names, others, spec, dataset, actions, onClose }: Props) {
  const id = useId();
  const merge = (spec.options?.merge ?? {}) as Renames;
  const category = only(spec.roles?.category) ?? "";
  const count = only(spec.roles?.count);
  const step: FilterStep = { column: category, labels: names, role: "category" };
  const narrowed = (spec.only ?? []).flatMap((one) => ("column" in one ? [one.column] : []));
  const levels = dataset.columns.filter(
    ({ name, kind }) => kind === "category" && name !== category && !narrowed.includes(name),
  );
  const time = dataset.columns.find(({ kind }) => kind === "date-time");
  const done = (act: () => void) => () => {
    act();
    onClose();
  };
  const overTime = (time: string) => {
    const roles: Spec["roles"] = count ? { count, order: time } : { per: time };
    const wanted = { method: "control-chart", roles, options: { chart: "c" }, only: [...(spec.only ?? []), step] };
    const key = (spec: Spec) => JSON.stringify([spec.method, spec.roles, spec.only]);
    actions.ask({ ...wanted, data: spec.data }, (other) => key(other) === key(wanted as Spec));
  };
  const goDown = (level: string) =>
    actions.change((spec) => {
      // Groups by the level gone to would be as many kinds of one each.
      const others = Object.entries(spec.roles ?? {}).filter(
        ([role, name]) => role !== "group" || only(name) !== level,
      );
      const roles = { ...Object.fromEntries(others), category: level };
      return { ...spec, roles, only: [...(spec.only ?? []), step] };
    });
  return (
    <>
      <p className="mb-1 font-semibold">{kind.label}</p>
      <Do words="Show its rows" onDo={done(() => actions.openRows({ first: kind.place, last: kind.place }))} />
      {time && <Do words={`Is it steady over ${time.name}?`} onDo={done(() => overTime(time.name))} />}
      {levels.slice(0, LEVELS_MOST).map(({ name }) => (
        <Do key={name} words={`Which ${name}?`} onDo={done(() => goDown(name))} />
      ))}
      <label htmlFor={id} className="mt-2 block text-[13px] text-ink-soft">
        Count it as
      </label>
      <select
        id={id}
        className="h-8 w-full rounded-md border border-hairline bg-paper px-1.5"
        value=""
        onChange={({ currentTarget: { value } }) =>
          done(() => actions.set({ merge: { ...merge, [kind.label]: value } }))()
        }
      >
        <option value="">a kind of its own</option>
        {others.map((other) => (
          <option key={other}>{other}</option>
        ))}
      </select>
    </>
  );
}

function Do({ words, onDo }: { words: string; onDo: () => void }) {
  return (
    <button
      type="button"
      onClick={onDo}
      className="flex w-full items-center gap-2 rounded-md px-2 py-1 text-left hover:bg-tint"
    >
      <span className="flex-1">{words}</span>
      <ArrowRight size={14} className="text-moss" aria-hidden />
    </button>
  );
}
