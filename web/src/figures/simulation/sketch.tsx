/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M6 26q7 0 11-12q4 12 11 12zM6 58q7 0 11-12q4 12 11 12zM6 90h5v-9h13v9h5z" fill="var(--slate-mid)" />
      <g fill="none" stroke="var(--slate-mid)" strokeOpacity="0.6">
        <path d="M32 20C48 20 44 46 60 46" strokeWidth="11" />
        <path d="M32 54C48 54 44 56 60 56" strokeWidth="5" />
        <path d="M32 86C48 86 44 62 60 62" strokeWidth="3" />
      </g>
      <g fill="var(--slate)">
        <path d="M71 70h6v14h-6zM78 52h6v32h-6zM85 38h6v46h-6zM92 50h6v34h-6zM99 68h6v16h-6z" />
      </g>
      <path d="M64 76h6v8h-6z" fill="var(--clay)" />
      <path d="M70.5 24v62" stroke="var(--ink)" strokeWidth="2" />
    </>
  );
}
