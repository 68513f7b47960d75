import { SaxesParser } from 'saxes';

/** An element by its name and namespace, whatever prefix it came with. */
export interface Element {
  namespace: string;
  name: string;
  attributes: Record<string, string>;
  /** Its own text, white space at both ends taken off. */
  text: string;
  children: Element[];
}

/**
 * Reads a document as a tree.
 *
 * @throws Error when it is not well formed, or has a document type: nobody needs one here, and entities could be made to grow without end.
 */
export function readXml(document: string): Element {
  const parser = new SaxesParser({ xmlns: true });
  const open: Element[] = [];
  let root: Element | null = null;
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('doctype', () => {
    throw new Error('it has a document type');
  });
  parser.on('opentag', ({ uri, local, attributes }) => {
    const element: Element = {
      namespace: uri,
      name: local,
      attributes: Object.fromEntries(Object.values(attributes).map((one) => [one.local, one.value])),
      text: '',
      children: [],
    };
    open.at(-1)?.children.push(element);
    root ??= element;
    open.push(element);
  });
  const add = (text: string) => {
    const element = open.at(-1);
    if (element) element.text += text;
  };
  parser.on('text', add);
  parser.on('cdata', add);
  parser.on('closetag', () => {
    const element = open.pop();
    if (element) element.text = element.text.trim();
  });
  parser.write(document).close();
  if (root === null) throw new Error('it is empty');
  return root;
}

/** The children of a name, in their order. */
export const all = (element: Element | undefined, namespace: string, name: string): Element[] =>
  element?.children.filter((child) => child.name === name && child.namespace === namespace) ?? [];

export const first = (element: Element | undefined, namespace: string, name: string): Element | undefined =>
  all(element, namespace, name)[0];

/** What follows a path of names of one namespace. */
export const along = (element: Element | undefined, namespace: string, ...names: string[]): Element | undefined =>
  names.reduce<Element | undefined>((at, name) => first(at, namespace, name), element);

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' };

export const escaped = (text: string): string => text.replace(/[&<>"']/g, (character) => ESCAPES[character]);
