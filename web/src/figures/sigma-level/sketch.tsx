/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M34 10v76M70 10v76" stroke="var(--ink-soft)" strokeWidth="2" />
      <path d="M34 20h36M34 34h36M34 48h36M34 62h36M34 76h36" stroke="var(--ink-soft)" strokeWidth="2" />
      <path d="M52 26v32" stroke="var(--slate-mid)" strokeWidth="7" strokeLinecap="round" />
      <path d="M52 32l9 9-9 9-9-9z" fill="var(--slate)" />
    </>
  );
}
