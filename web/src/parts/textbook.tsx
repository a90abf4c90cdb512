import { createElement, type ReactElement } from "react";
import type { Schema } from "../api/client";

type Parts = Schema["FormulaNotation"]["parts"];

/** A formula as a textbook writes it, in MathML. */
export function Textbook({ parts }: { parts: Parts }) {
  // Parts stand before what they are parts of, so that each finds its own.
  const drawn: ReactElement[] = [];
  for (const part of parts) drawn.push(element(part, drawn));
  return createElement(
    "math",
    { "aria-label": "As a textbook writes it", className: "font-serif text-[15px] text-ink" },
    drawn.at(-1),
  );
}

function element(part: Parts[number], drawn: ReactElement[]): ReactElement {
  const of = (place: number) => drawn[place] ?? null;
  switch (part.part) {
    case "number":
      return createElement("mn", null, part.text.replace("-", "−"));
    case "name":
      return createElement("mtext", { className: "italic" }, part.text);
    case "row": {
      const items = part.items.map((item) => (typeof item === "number" ? of(item) : createElement("mo", null, item)));
      return createElement("mrow", null, ...items);
    }
    case "fraction":
      return createElement("mfrac", null, of(part.over), of(part.under));
    case "power":
      return createElement("msup", null, of(part.base), of(part.exponent));
    case "root":
      return createElement("msqrt", null, of(part.of));
  }
}
