import type { ReactNode } from "react";

const DRAWINGS: Record<string, ReactNode> = {
  distribution: (
    <>
      <path
        d="M14 78v-8h10v8zM26 78V54h10v24zM38 78V32h10v46zM50 78V22h10v56zM62 78V40h10v38zM74 78V60h10v18z"
        fill="var(--slate)"
        fillOpacity="0.75"
      />
      <path
        d="M8 77c16-2 22-54 44-56s28 54 44 56"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.8"
        strokeDasharray="1.5 4"
        strokeLinecap="round"
      />
      <path d="M6 78h92" stroke="var(--ink-soft)" strokeWidth="1.4" />
    </>
  ),
  "control-chart": (
    <>
      <path d="M8 22h88M8 70h88" stroke="var(--ochre)" strokeWidth="1.6" strokeDasharray="8 4" />
      <path d="M8 46h88" stroke="var(--moss)" strokeWidth="1.4" />
      <path d="M8 46l11-9 12 10 13-14 13 18 13-33 11 28 10-5 9 5" fill="none" stroke="var(--slate)" strokeWidth="2" />
      <circle cx="70" cy="18" r="8" fill="none" stroke="var(--plum)" strokeWidth="2.2" />
    </>
  ),
};

/** A small drawing of the figure that answers a question. */
export function QuestionDrawing({ method }: { method: string }) {
  return (
    <svg viewBox="0 0 104 96" aria-hidden="true" className="h-24 w-[104px] shrink-0 rounded-lg bg-paper">
      {DRAWINGS[method]}
    </svg>
  );
}
