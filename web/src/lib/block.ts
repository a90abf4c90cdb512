/** Cells as a spreadsheet copies them: rows on lines, cells parted by tabs; a last empty line is none. */
export const blockOf = (text: string): string[][] =>
  text
    .replace(/\r\n?/g, "\n")
    .replace(/\n$/, "")
    .split("\n")
    .map((line) => line.split("\t"));
