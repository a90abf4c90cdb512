/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path d="M8 22h88M8 70h88" stroke="var(--ochre)" strokeWidth="1.6" strokeDasharray="8 4" />
      <path d="M8 46h88" stroke="var(--moss)" strokeWidth="1.4" />
      <path d="M8 46l11-9 12 10 13-14 13 18 13-33 11 28 10-5 9 5" fill="none" stroke="var(--slate)" strokeWidth="2" />
      <circle cx="70" cy="18" r="8" fill="none" stroke="var(--plum)" strokeWidth="2.2" />
    </>
  );
}
