/** The figure as a small drawing. */
export default function Sketch() {
  return (
    <>
      <path
        d="M12 84h9V60h-9zM23 84h9V38h-9zM34 84h9V26h-9zM45 84h9V36h-9zM56 84h9V52h-9zM67 84h9V64h-9zM78 84h9V74h-9zM89 84h9V80h-9z"
        fill="var(--slate-mid)"
      />
      <path d="M8 78C22 74 26 24 38 24S62 60 104 82" fill="none" stroke="var(--ink)" strokeWidth="2.4" />
      <path
        d="M8 82C30 80 30 34 44 34S66 80 104 83"
        fill="none"
        stroke="var(--ochre)"
        strokeWidth="1.6"
        strokeDasharray="4 3"
      />
    </>
  );
}
