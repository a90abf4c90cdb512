/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <rect x="8" y="42" width="92" height="22" fill="var(--moss)" fillOpacity="0.12" />
      <path d="M8 53h92" stroke="var(--moss)" strokeWidth="1.6" />
      <g fill="var(--slate)" fillOpacity="0.4">
        <circle cx="20" cy="66" r="3" />
        <circle cx="28" cy="80" r="3" />
        <circle cx="24" cy="56" r="3" />
        <circle cx="50" cy="44" r="3" />
        <circle cx="58" cy="62" r="3" />
        <circle cx="80" cy="24" r="3" />
        <circle cx="88" cy="44" r="3" />
        <circle cx="82" cy="52" r="3" />
      </g>
      <path d="M24 58V80M54 44V62M84 26V48" stroke="var(--ink)" strokeWidth="3" />
      <circle cx="24" cy="69" r="5" fill="var(--plum)" />
      <circle cx="54" cy="53" r="5" fill="var(--ink)" />
      <circle cx="84" cy="36" r="5" fill="var(--plum)" />
      <path d="M24 16v-6h60v6" fill="none" stroke="var(--plum)" strokeWidth="1.6" />
    </>
  );
}
