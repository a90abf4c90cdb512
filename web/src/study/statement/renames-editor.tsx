import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useId, useState } from "react";
import { type Dataset, labelsQuery, type Spec } from "../../api/queries";
import { Button } from "../../parts/button";
import { columnsOf, type RenamesSlot, renamesOf } from "./words";

type Renames = Record<string, string>;
type Props = { slot: RenamesSlot; spec: Spec; dataset: Dataset; onSet: (value: Renames | null) => void };

const FIELD = "h-8 w-full rounded-md border border-hairline bg-paper px-1.5";

/** Names that are counted as another, each of which can be taken back. */
export function RenamesEditor({ slot, spec, dataset, onSet }: Props) {
  const id = useId();
  const column = dataset.columns.find((column) => column.name === columnsOf(spec, slot.of)[0]);
  const labels = useQuery(labelsQuery(dataset, column)).data ?? [];
  const renames = renamesOf(slot, spec);
  const [name, setName] = useState("");
  const [as, setAs] = useState("");
  const keep = (next: Renames) => onSet(Object.keys(next).length === 0 ? null : next);
  const add = () => {
    keep({ ...renames, [name]: as });
    setName("");
    setAs("");
  };
  if (!column) return <p>Choose its column first.</p>;
  const choices = (shown: string[]) => [
    <option key="" value="">
      choose
    </option>,
    ...shown.map((label) => <option key={label}>{label}</option>),
  ];
  return (
    <>
      <ul className="mb-2">
        {Object.entries(renames).map(([from, to]) => (
          <li key={from} className="flex items-center gap-2 py-0.5">
            <span className="flex-1">
              {from} <span className="text-ink-soft">as</span> {to}
            </span>
            <button
              type="button"
              aria-label={`Count ${from} by itself again`}
              className="rounded-md p-1 text-ink-soft hover:bg-tint hover:text-clay"
              onClick={() => {
                const { [from]: _, ...others } = renames;
                keep(others);
              }}
            >
              <X size={15} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <label htmlFor={`${id} name`} className="block text-[13px] text-ink-soft">
        Count
      </label>
      <select
        id={`${id} name`}
        className={FIELD}
        value={name}
        onChange={({ currentTarget }) => setName(currentTarget.value)}
      >
        {choices(labels.filter((label) => !(label in renames)))}
      </select>
      <label htmlFor={`${id} as`} className="mt-1.5 block text-[13px] text-ink-soft">
        as
      </label>
      <select id={`${id} as`} className={FIELD} value={as} onChange={({ currentTarget }) => setAs(currentTarget.value)}>
        {choices(labels.filter((label) => label !== name && !(label in renames)))}
      </select>
      <Button className="mt-2" look="primary" disabled={!name || !as} onClick={add}>
        Count as one
      </Button>
    </>
  );
}
