/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <g fill="var(--hairline)" fillOpacity="0.5">
        <rect x="8" y="10" width="28" height="26" rx="3" />
        <rect x="40" y="10" width="28" height="26" rx="3" />
        <rect x="72" y="10" width="28" height="26" rx="3" />
        <rect x="8" y="40" width="28" height="26" rx="3" />
        <rect x="40" y="40" width="28" height="26" rx="3" />
        <rect x="72" y="40" width="28" height="26" rx="3" />
        <rect x="8" y="70" width="28" height="26" rx="3" />
        <rect x="40" y="70" width="28" height="26" rx="3" />
        <rect x="72" y="70" width="28" height="26" rx="3" />
      </g>
      <path
        d="M15 32v-8M21 32v-16M27 32v-9M47 62v-9M53 62v-17M59 62v-7M79 92v-7M85 92v-16M91 92v-9"
        stroke="var(--slate-mid)"
        strokeWidth="4"
      />
      <path d="M52 24h14M84 24h12M76 54h10" stroke="var(--moss)" strokeWidth="5" strokeLinecap="round" />
      <g fill="var(--slate)">
        <circle cx="14" cy="60" r="2" />
        <circle cx="20" cy="54" r="2" />
        <circle cx="26" cy="52" r="2" />
        <circle cx="31" cy="46" r="2" />
        <circle cx="14" cy="90" r="2" />
        <circle cx="22" cy="82" r="2" />
        <circle cx="30" cy="76" r="2" />
        <circle cx="46" cy="78" r="2" />
        <circle cx="54" cy="88" r="2" />
        <circle cx="62" cy="84" r="2" />
      </g>
    </>
  );
}
