/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M8 24h88v50H8z" fill="var(--moss)" fillOpacity="0.1" />
      <path d="M8 24h88M8 74h88" stroke="var(--ink-soft)" strokeDasharray="2 3" />
      <path d="M8 49h88" stroke="var(--ink)" strokeWidth="1.6" />
      <path d="M12 44l9-6 9 10 9-8 9 4 9-9 9 8 8-3" fill="none" stroke="var(--slate)" strokeWidth="1.6" />
      <path d="M8 42h72" stroke="var(--ochre)" strokeWidth="1.6" />
      <rect x="84" y="33" width="9" height="18" rx="2" fill="var(--plum)" />
    </>
  );
}
