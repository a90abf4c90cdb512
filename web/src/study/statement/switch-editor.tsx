import { RadioGroup } from "radix-ui";
import type { Spec } from "../../api/queries";
import { Option } from "./option";
import { isOn, type SwitchSlot } from "./words";

type Props = { slot: SwitchSlot; spec: Spec; onApply: (value: boolean) => void };

/** Yes or no, each in words. */
export function SwitchEditor({ slot, spec, onApply }: Props) {
  return (
    <RadioGroup.Root
      aria-label={slot.label}
      value={isOn(slot, spec) ? "on" : "off"}
      onValueChange={(value) => onApply(value === "on")}
    >
      <Option value="on" words={slot.on} />
      <Option value="off" words={slot.off} />
    </RadioGroup.Root>
  );
}
