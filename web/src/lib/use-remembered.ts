import { useState } from "react";

/** A choice that this browser remembers: one of those that there are, the first unless another was chosen. */
export function useRemembered<T extends string>(name: string, choices: readonly [T, ...T[]]): [T, (choice: T) => void] {
  const [choice, setChoice] = useState<T>(() => {
    const kept = read(name);
    return choices.find((one) => one === kept) ?? choices[0];
  });
  const choose = (next: T) => {
    setChoice(next);
    try {
      localStorage.setItem(name, next);
    } catch {
      // A browser that keeps nothing still shows what was chosen.
    }
  };
  return [choice, choose];
}

function read(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null;
  }
}
