/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <g fill="var(--slate)" fillOpacity="0.4">
        <circle cx="14" cy="30" r="2.6" />
        <circle cx="14" cy="42" r="2.6" />
        <circle cx="28" cy="44" r="2.6" />
        <circle cx="28" cy="56" r="2.6" />
        <circle cx="54" cy="52" r="2.6" />
        <circle cx="54" cy="66" r="2.6" />
        <circle cx="68" cy="68" r="2.6" />
        <circle cx="68" cy="78" r="2.6" />
        <circle cx="94" cy="18" r="2.6" />
        <circle cx="94" cy="30" r="2.6" />
      </g>
      <path d="M14 36L28 50M54 59L68 73M80 34L94 24" stroke="var(--moss)" strokeWidth="2" fill="none" />
      <path d="M8 43H34M48 66H74M76 28H100" stroke="var(--ink)" strokeWidth="3" />
      <path d="M10 94v-8M28 94v-10M54 94v-9M68 94v-6M94 94v-11" stroke="var(--slate-mid)" strokeWidth="4" />
    </>
  );
}
