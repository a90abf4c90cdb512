/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M8 20h58M8 44h34" stroke="var(--moss)" strokeWidth="11" />
      <path d="M8 68h10M8 90h6" stroke="var(--slate-mid)" strokeWidth="11" />
      <g fill="var(--slate)">
        <circle cx="76" cy="26" r="2" />
        <circle cx="84" cy="22" r="2" />
        <circle cx="92" cy="16" r="2" />
        <circle cx="100" cy="13" r="2" />
        <circle cx="78" cy="72" r="2" />
        <circle cx="88" cy="64" r="2" />
        <circle cx="98" cy="70" r="2" />
      </g>
      <path d="M76 50v-8M86 50v-2M96 50v-12" stroke="var(--slate-mid)" strokeWidth="5" />
    </>
  );
}
