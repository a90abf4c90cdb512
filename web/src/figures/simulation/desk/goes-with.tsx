import { X } from "lucide-react";
import { useState } from "react";
import { typedNumber } from "../../../lib/format";
import { SelectField, TextField } from "../../../parts/fields";

export type Pair = { a: string; b: string; r: number };

type Props = { name: string; others: string[]; pairs: Pair[]; onChange: (pairs: Pair[]) => void };

/** Inputs that an input goes together with, each with its correlation. */
export function GoesWith({ name, others, pairs, onChange }: Props) {
  const [wanted, setWanted] = useState("");
  const [text, setText] = useState("0.5");
  const own = (pair: Pair) => pair.a === name || pair.b === name;
  const other = (pair: Pair) => (pair.a === name ? pair.b : pair.a);
  const mine = pairs.filter(own);
  const free = others.filter((one) => !mine.some((pair) => other(pair) === one));
  const r = typedNumber(text);
  const fits = typeof r === "number" && Math.abs(r) <= 1;
  if (others.length === 0) return null;
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!fits || !wanted) return;
        onChange([...pairs, { a: name, b: wanted, r }]);
        setWanted("");
      }}
    >
      {mine.map((pair) => (
        <span key={other(pair)} className="flex h-[30px] items-center gap-1 rounded-full bg-tint px-2.5 text-[13px]">
          goes with {other(pair)}, r {String(pair.r).replace("-", "−")}
          <button
            type="button"
            aria-label={`No longer with ${other(pair)}`}
            onClick={() => onChange(pairs.filter((one) => one !== pair))}
            className="rounded-full p-0.5 hover:text-clay"
          >
            <X size={13} aria-hidden />
          </button>
        </span>
      ))}
      {free.length > 0 && (
        <SelectField label="goes with" value={wanted} onChoose={setWanted}>
          <option value="">no other input</option>
          {free.map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </SelectField>
      )}
      {wanted && (
        <>
          <TextField label="correlation" numeric wide="w-20" wrong={!fits} value={text} onType={setText} />
          <button
            type="submit"
            disabled={!fits}
            className="h-[30px] rounded-md border border-hairline bg-sheet px-3 font-medium hover:border-moss disabled:opacity-50"
          >
            Add
          </button>
        </>
      )}
    </form>
  );
}
