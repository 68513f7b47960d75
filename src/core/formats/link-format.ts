/** One entry of an application/link-format document (RFC 6690 section 2, as RFC 7089 section 5 uses it). */
export interface LinkEntry {
  url: string;
  parameters: Record<string, string>;
}

const PARAMETER = /^\s*;\s*([a-z0-9!#$&+\-.^_`|~*]+)\s*(?:=\s*(?:"((?:[^"\\]|\\.)*)"|([^\s;,"]*)))?/i;

/**
 * Parses link-format text. What is no entry is skipped up to the next comma, and counted.
 */
export function parseLinkFormat(text: string): { entries: LinkEntry[]; skipped: number } {
  const entries: LinkEntry[] = [];
  let skipped = 0;
  let at = 0;
  while (at < text.length) {
    const open = text.indexOf('<', at);
    if (open < 0) break;
    const close = text.indexOf('>', open);
    if (close < 0) {
      skipped++;
      break;
    }
    const between = text.slice(at, open).replace(/[\s,]/g, '');
    if (between !== '') skipped++;
    const parameters: Record<string, string> = {};
    at = close + 1;
    for (;;) {
      const found = PARAMETER.exec(text.slice(at, at + 4096));
      if (!found) break;
      parameters[found[1].toLowerCase()] ??= found[2]?.replace(/\\(.)/g, '$1') ?? found[3] ?? '';
      at += found[0].length;
    }
    entries.push({ url: text.slice(open + 1, close), parameters });
    const comma = text.indexOf(',', at);
    const tail = text.slice(at, comma < 0 ? undefined : comma).trim();
    if (tail !== '') skipped++;
    if (comma < 0) break;
    at = comma + 1;
  }
  return { entries, skipped };
}
