/** A feed and its entries. Times in ms since 1970 UTC. */
export interface AtomFeed {
  /** An address that never changes and is nobody else's. */
  id: string;
  title: string;
  self: string;
  link: string;
  updated: number;
  entries: AtomEntry[];
}
export interface AtomEntry {
  id: string;
  title: string;
  link: string;
  updated: number;
  summary: string;
}

/** An Atom feed (RFC 4287). Characters that XML 1.0 cannot hold are left out. */
export function atomFeed({ id, title, self, link, updated, entries }: AtomFeed): string {
  const lines = [
    '<?xml version="1.0" encoding="utf-8"?>',
    '<feed xmlns="http://www.w3.org/2005/Atom">',
    `<id>${xml(id)}</id><title>${xml(title)}</title><updated>${date(updated)}</updated>`,
    '<author><name>Jam Ladle</name></author>',
    `<link rel="self" href="${xml(self)}"/><link href="${xml(link)}"/>`,
    ...entries.map(
      (entry) =>
        `<entry><id>${xml(entry.id)}</id><title>${xml(entry.title)}</title><updated>${date(entry.updated)}</updated>` +
        `<link href="${xml(entry.link)}"/><summary>${xml(entry.summary)}</summary></entry>`,
    ),
    '</feed>',
  ];
  return `${lines.join('\n')}\n`;
}

function date(at: number): string {
  return new Date(at).toISOString();
}

const MARKS: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

function xml(text: string): string {
  return text
    .replace(/[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, '')
    .replace(/[&<>"]/g, (mark) => MARKS[mark]);
}
