// Lines in bold, as another program's clipboard has them.

/** The lines of a text with those in bold, as they were copied with `html`, marked as Markdown marks them. */
export function withBold(text: string, html: string): string {
  const copied = new DOMParser().parseFromString(html, "text/html");
  const textOf = (one: Element) => one.textContent?.trim() ?? "";
  const bold = new Set([...copied.querySelectorAll("b, strong")].map(textOf));
  // What is copied can be wrapped in a `b` that says it is none.
  for (const one of copied.querySelectorAll('b[style*="normal"]')) bold.delete(textOf(one));
  const mark = (line: string) => line.replace(/^(\s*(?:[-*•▪◦·o]\s+)?)(.*\S)(\s*)$/u, "$1**$2**$3");
  const isBold = (line: string) => bold.has(line.trim().replace(/^[-*•▪◦·o]\s+/u, ""));
  return text
    .split(/\r?\n/)
    .map((line) => (isBold(line) ? mark(line) : line))
    .join("\n");
}
