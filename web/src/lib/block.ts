/** Cells as a spreadsheet copies them: rows on lines, cells parted by tabs, quotation marks around those that have either within; a last
 * empty line is none. */
export function blockOf(text: string): string[][] {
  const rest = text.replace(/\r\n?/g, "\n").replace(/\n$/, "");
  const lines: string[][] = [[]];
  // A quoted cell ends with a mark before a tab, a line end or the end; any other mark is a letter like others.
  const cell = /"((?:[^"]|"")*)"(?=\t|\n|$)|([^\t\n]*)/y;
  let at = 0;
  while (at <= rest.length) {
    cell.lastIndex = at;
    const found = cell.exec(rest);
    if (!found) break;
    lines.at(-1)?.push(found[1] === undefined ? (found[2] ?? "") : found[1].replaceAll('""', '"'));
    at += found[0].length;
    if (at >= rest.length) break;
    if (rest[at] === "\n") lines.push([]);
    at += 1;
    if (at === rest.length) {
      lines.at(-1)?.push("");
      break;
    }
  }
  return lines;
}
