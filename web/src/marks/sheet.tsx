import type { ReactNode, RefObject, SVGProps } from "react";

type Props = Pick<SVGProps<SVGSVGElement>, "onPointerDown" | "onPointerMove" | "onPointerUp" | "onPointerLeave"> & {
  figure: RefObject<SVGSVGElement | null>;
  size: { width: number; height: number };
  /** What it shows, in words. */
  label: string;
  /** Whether something in it can be reached on its own. */
  reached?: boolean;
  children: ReactNode;
};

/** The sheet that a figure is drawn on, as page, print and export take it. */
export function Sheet({ figure, size: { width, height }, label, reached, children, ...listens }: Props) {
  return (
    <svg
      ref={figure}
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role={reached ? "group" : "img"}
      aria-label={label}
      className="block select-none font-sans"
      {...listens}
    >
      {children}
    </svg>
  );
}

/** The title of a figure or of a part of it. */
export function Heading({ x, y, children }: { x: number; y: number; children: ReactNode }) {
  return (
    <text x={x} y={y} fontSize="13" fontWeight="600" fill="var(--ink)">
      {children}
    </text>
  );
}
