const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** Markup that was made here, and need not be escaped again. */
export class Html {
  constructor(readonly text: string) {}
}

type Part = string | number | null | undefined | Html | readonly Part[];

/**
 * Markup from a template: what stands in it by hand is kept, whatever is put in is escaped (for text and quoted attributes), unless it
 * is markup made the same way. Of lists, each part; of nothing, nothing.
 */
export function html(pieces: TemplateStringsArray, ...parts: Part[]): Html {
  return new Html(pieces.reduce((text, piece, n) => text + markup(parts[n - 1]) + piece));
}

function markup(part: Part): string {
  if (part === null || part === undefined) return '';
  if (part instanceof Html) return part.text;
  if (typeof part === 'object') return part.map(markup).join('');
  return String(part).replace(/[&<>"']/g, (sign) => ENTITIES[sign]);
}
