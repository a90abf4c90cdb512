/** Properties that the page's style sheet sets on marks and a lone file must carry itself. */
const CARRIED = [
  "fill",
  "fill-opacity",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-opacity",
  "opacity",
  "font-family",
  "font-size",
  "font-weight",
  "text-anchor",
] as const;

let faces: Promise<string> | undefined;

/** The shipped fonts as style rules that carry the fonts themselves. */
function fontFaces(): Promise<string> {
  const rules = [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules]);
  const own = rules.filter((rule): rule is CSSFontFaceRule => rule instanceof CSSFontFaceRule);
  faces ??= Promise.all(own.map(withFont)).then((all) => all.join(""));
  return faces;
}

async function withFont({ style, parentStyleSheet }: CSSFontFaceRule): Promise<string> {
  const family = style.getPropertyValue("font-family");
  const address = /url\("?([^")]+)"?\)/.exec(style.getPropertyValue("src"))?.[1] ?? "";
  const bytes = await fetch(new URL(address, parentStyleSheet?.href ?? document.baseURI)).then((font) =>
    font.arrayBuffer(),
  );
  let letters = "";
  for (const byte of new Uint8Array(bytes)) letters += String.fromCharCode(byte);
  const weight = style.getPropertyValue("font-weight");
  return `@font-face{font-family:${family};font-weight:${weight};src:url(data:font/woff2;base64,${btoa(letters)}) format("woff2")}`;
}

/** The figure as a file of its own: styles inlined, fonts embedded, a sheet-coloured ground. */
export async function standaloneSvg(figure: SVGSVGElement, caption: string): Promise<string> {
  const copy = figure.cloneNode(true) as SVGSVGElement;
  const live = figure.querySelectorAll<SVGElement>("*");
  copy.querySelectorAll<SVGElement>("*").forEach((node, index) => {
    const source = live[index];
    if (!source) return;
    const style = getComputedStyle(source);
    for (const property of CARRIED) {
      const value = style.getPropertyValue(property);
      if (value) node.setAttribute(property, value);
    }
    for (const name of ["class", "tabindex", "role", "data-state"]) node.removeAttribute(name);
  });
  for (const node of copy.querySelectorAll("[data-export='no']")) node.remove();
  const { width, height } = figure.viewBox.baseVal;
  const captionHeight = 28;
  copy.setAttribute("viewBox", `0 0 ${width} ${height + captionHeight}`);
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("width", String(width));
  copy.setAttribute("height", String(height + captionHeight));
  const root = getComputedStyle(document.documentElement);
  const ground = svgNode("rect", { width: "100%", height: "100%", fill: root.getPropertyValue("--sheet").trim() });
  copy.insertBefore(ground, copy.firstChild);
  const fonts = svgNode("style", {});
  fonts.textContent = await fontFaces();
  copy.insertBefore(fonts, copy.firstChild);
  const text = svgNode("text", {
    x: "16",
    y: String(height + 16),
    "font-family": "'Fraunces Variable', Georgia, serif",
    "font-size": "13",
    fill: root.getPropertyValue("--ink").trim(),
  });
  text.textContent = caption;
  copy.appendChild(text);
  return new XMLSerializer().serializeToString(copy);
}

function svgNode(name: string, attributes: Record<string, string>): SVGElement {
  const node = document.createElementNS("http://www.w3.org/2000/svg", name);
  for (const [key, value] of Object.entries(attributes)) node.setAttribute(key, value);
  return node;
}

export function saveBlob(blob: Blob, name: string) {
  const address = URL.createObjectURL(blob);
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}

export function saveText(text: string, name: string, type: string) {
  saveBlob(new Blob([text], { type }), name);
}

export async function saveSvg(figure: SVGSVGElement, caption: string, name: string) {
  saveBlob(new Blob([await standaloneSvg(figure, caption)], { type: "image/svg+xml" }), `${name}.svg`);
}

/** Draws the standalone figure at twice its size. */
export async function savePng(figure: SVGSVGElement, caption: string, name: string) {
  const text = await standaloneSvg(figure, caption);
  const picture = new Image();
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  await picture.decode();
  const canvas = document.createElement("canvas");
  canvas.width = picture.width * 2;
  canvas.height = picture.height * 2;
  const context = canvas.getContext("2d");
  if (!context) throw new Error("This browser cannot draw pictures.");
  context.scale(2, 2);
  context.drawImage(picture, 0, 0);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/png"));
  if (!blob) throw new Error("The picture is too large to draw.");
  saveBlob(blob, `${name}.png`);
}
