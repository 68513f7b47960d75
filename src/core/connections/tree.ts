/** An answer as data: what JSON can say, and XML and CSV turned into it. */
export type Tree = string | number | boolean | null | Tree[] | { [name: string]: Tree };

/** An answer that is not what its description says. Its message is for people. */
export class AnswerFault extends Error {
  /** @param field which part of the description it concerns; null: none. */
  constructor(
    message: string,
    readonly field: string | null = null,
  ) {
    super(message);
  }
}

/** The parts of a JSON Pointer (RFC 6901); its first slash may be left out. */
export function pointerParts(at: string): string[] {
  if (at === '') return [];
  return (at.startsWith('/') ? at.slice(1) : at)
    .split('/')
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'));
}

/** A JSON Pointer of its parts. */
export function pointerOf(parts: readonly string[]): string {
  return parts.map((part) => `/${part.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');
}

/**
 * What stands at a JSON Pointer; undefined: nothing. Unlike in RFC 6901 a name may lead through an array: it is that of the first element that
 * has it, since XML has an array only where there are several.
 */
export function reach(tree: Tree, at: string): Tree | undefined {
  return along(tree, pointerParts(at));
}

function along(tree: Tree, parts: readonly string[]): Tree | undefined {
  if (parts.length === 0) return tree;
  const [part, ...rest] = parts;
  if (Array.isArray(tree)) {
    if (/^\d+$/.test(part)) {
      const value = tree[Number(part)];
      return value === undefined ? undefined : along(value, rest);
    }
    for (const one of tree) {
      const found = along(one, parts);
      if (found !== undefined) return found;
    }
    return undefined;
  }
  const value = within(tree, part);
  return value === undefined ? undefined : along(value, rest);
}

/** A member of an object by its own name; undefined: there is none. */
export function within(tree: Tree, name: string): Tree | undefined {
  if (tree === null || typeof tree !== 'object' || Array.isArray(tree)) return undefined;
  return Object.hasOwn(tree, name) ? tree[name] : undefined;
}

/** What stands at a JSON Pointer as text: '' for nothing, null and objects; texts of an array with commas between. */
export function textAt(tree: Tree, at: string): string {
  const found = reach(tree, at);
  return found === undefined ? '' : textOf(found);
}

export function textOf(value: Tree): string {
  if (typeof value === 'string') return value.trim();
  if (typeof value === 'number') return numberText(value);
  if (typeof value === 'boolean') return String(value);
  if (value === null) return '';
  if (Array.isArray(value)) return value.map(textOf).filter(Boolean).join(', ');
  // an element of XML with attributes has its text beside them
  return Object.hasOwn(value, '#text') ? textOf(value['#text']) : '';
}

/** A number as nobody can misread it: three digits behind its point would be taken for a group of thousands. */
function numberText(value: number): string {
  const text = String(value);
  return /\.\d{3}$/.test(text) ? `${text}0` : text;
}
