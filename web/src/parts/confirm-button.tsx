import { useEffect, useState } from "react";
import { Button } from "./button";

type Props = { children: string; onConfirm: () => void };

/** For what cannot be undone: the first click asks, the second does it; after a while it forgets it was asked. */
export function ConfirmButton({ children, onConfirm }: Props) {
  const [asked, setAsked] = useState(false);
  useEffect(() => {
    if (!asked) return;
    const timer = setTimeout(() => setAsked(false), 5000);
    return () => clearTimeout(timer);
  }, [asked]);
  return (
    <Button
      look={asked ? "danger" : "faint"}
      onClick={() => (asked ? onConfirm() : setAsked(true))}
      onBlur={() => setAsked(false)}
    >
      {asked ? "Really? This cannot be undone" : children}
    </Button>
  );
}
