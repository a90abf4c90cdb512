import type { ReactNode } from "react";

type Props = { label: string; pressed: boolean; transform?: string; onPress: () => void; children: ReactNode };

/** A part of the picture that is chosen by pointer or key. */
export function CardButton({ label, pressed, transform, onPress, children }: Props) {
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={label}
      aria-pressed={pressed}
      transform={transform}
      onClick={onPress}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        onPress();
      }}
      className="cursor-pointer"
    >
      {children}
    </g>
  );
}
