import type { ButtonHTMLAttributes } from "react";

const LOOKS = {
  primary: "bg-moss text-on-moss border-moss hover:brightness-110",
  plain: "bg-sheet border-hairline hover:border-moss",
  quiet: "border-transparent text-moss font-semibold hover:underline px-0! h-auto!",
  faint: "border-transparent text-[13px] text-ink-soft hover:text-clay",
  danger: "bg-sheet border-hairline text-clay hover:border-clay",
};

type Props = ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof LOOKS };

export function Button({ look = "plain", className = "", ...rest }: Props) {
  return (
    <button
      type="button"
      className={`inline-flex h-[31px] items-center gap-1.5 whitespace-nowrap rounded-md border px-3 font-medium disabled:opacity-50 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
