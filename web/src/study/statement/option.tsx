import { RadioGroup } from "radix-ui";

/** One of several, with a line to choose by. */
export function Option({ value, words, hint }: { value: string; words: string; hint?: string }) {
  return (
    <RadioGroup.Item
      value={value}
      className="group flex w-full items-start gap-2 rounded-md px-2 py-1.5 text-left hover:bg-tint data-[state=checked]:bg-tint"
    >
      <span
        aria-hidden
        className="mt-[3px] h-3.5 w-3.5 shrink-0 rounded-full border-2 border-ink-soft group-data-[state=checked]:border-[5px] group-data-[state=checked]:border-moss"
      />
      <span>
        <span className="font-medium">{words}</span>
        {hint && <span className="block text-[13px] text-ink-soft">{hint}</span>}
      </span>
    </RadioGroup.Item>
  );
}
