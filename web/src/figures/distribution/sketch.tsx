/** The figure as a small drawing. */
export default function Sketch() {
  return (
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
  );
}
