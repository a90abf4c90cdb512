/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M10 22h50" stroke="var(--slate-mid)" strokeWidth="7" strokeLinecap="round" />
      <circle cx="34" cy="22" r="5" fill="var(--slate)" />
      <path d="M72 8v80" stroke="var(--ink)" strokeWidth="2" />
      <path d="M52 86v-6h6v6zM60 86V68h6v18zM75 86V54h6v32zM83 86V66h6v20zM91 86v-8h6v8z" fill="var(--slate-mid)" />
      <path d="M36 86v-3h6v3zM44 86v-4h6v4z" fill="var(--plum)" />
      <path d="M8 87h90" stroke="var(--ink-soft)" strokeWidth="1.4" />
    </>
  );
}
