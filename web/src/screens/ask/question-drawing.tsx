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
  "sigma-level": (
    <>
      <path d="M34 10v76M70 10v76" stroke="var(--ink-soft)" strokeWidth="2" />
      <path d="M34 20h36M34 34h36M34 48h36M34 62h36M34 76h36" stroke="var(--ink-soft)" strokeWidth="2" />
      <path d="M52 26v32" stroke="var(--slate-mid)" strokeWidth="7" strokeLinecap="round" />
      <path d="M52 32l9 9-9 9-9-9z" fill="var(--slate)" />
    </>
  ),
  capability: (
    <>
      <path d="M6 16h92M6 82h92" stroke="var(--ink)" strokeWidth="2" />
      <path d="M8 50l7-10 7 14 7-22 7 16 7-8 5 12" fill="none" stroke="var(--slate)" strokeWidth="1.8" />
      <path d="M54 26h6v8h-6zM54 36h15v8H54zM54 46h22v8H54zM54 56h12v8H54zM54 66h5v8h-5z" fill="var(--slate)" />
      <path d="M83 74l13-50" stroke="var(--ink-soft)" strokeWidth="1.4" />
      <path
        d="M83 73v.1M86 64v.1M88 56v.1M90 48v.1M92 40v.1M96 27v.1"
        stroke="var(--slate)"
        strokeWidth="4"
        strokeLinecap="round"
      />
    </>
  ),
  indices: (
    <>
      {[14, 40, 66].map((y, row) => (
        <g key={y}>
          <path d={`M10 ${y + 14}a12 12 0 0 1 24 0`} fill="none" stroke="var(--ink)" strokeWidth="2" />
          <path d={`M22 ${y + 14}l${[5, -6, 8][row]} -8`} stroke="var(--ink)" strokeWidth="1.6" />
          <path d={`M46 ${y + 9}h${[40, 24, 32][row]}`} stroke="var(--slate-mid)" strokeWidth="6" />
          <circle cx={46 + ([40, 24, 32][row] ?? 0) / 2} cy={y + 9} r="4" fill="var(--slate)" />
        </g>
      ))}
      <path d="M74 8v80" stroke="var(--moss)" strokeWidth="1.6" />
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
