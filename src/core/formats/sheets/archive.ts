import { type SaxesAttributePlain, SaxesParser } from 'saxes';

/** The parts of a packed file, by name, in order. */
export interface Archive {
  readonly names: readonly string[];
  /** Size that a part has unpacked. */
  size(name: string): number;
  /** The bytes of a part. */
  open(name: string): AsyncIterable<Uint8Array>;
}

export interface XmlEvents {
  open(name: string, attributes: Record<string, string>): void;
  close(name: string): void;
  text(text: string): void;
}

/** Walks through a part that is XML; names are without their prefixes where `bare` is told. Yields where a caller may take what has come. @throws Error when it is no XML. */
export async function* walkXml(archive: Archive, name: string, events: XmlEvents): AsyncGenerator<void> {
  const parser = new SaxesParser({ xmlns: false });
  let failure: Error | null = null;
  parser.on('error', (error) => {
    failure ??= error;
  });
  parser.on('opentag', ({ name: tag, attributes }) => events.open(bare(tag), bareAttributes(attributes as Attributes)));
  parser.on('closetag', ({ name: tag }) => events.close(bare(tag)));
  parser.on('text', (text) => events.text(text));
  parser.on('cdata', (text) => events.text(text));
  const decoder = new TextDecoder();
  for await (const chunk of archive.open(name)) {
    parser.write(decoder.decode(chunk, { stream: true }));
    if (failure) throw failure;
    yield;
  }
  parser.write(decoder.decode()).close();
  if (failure) throw failure;
  yield;
}

/** Walks through a whole part. */
export async function readXml(archive: Archive, name: string, events: Partial<XmlEvents>): Promise<void> {
  const nothing = () => undefined;
  for await (const _part of walkXml(archive, name, { open: nothing, close: nothing, text: nothing, ...events }));
}

type Attributes = Record<string, SaxesAttributePlain>;
const bare = (name: string) => name.slice(name.indexOf(':') + 1);
/** `r:id` and `office:value-type` are what stands behind the colon; `xmlns:r` is none. */
function bareAttributes(attributes: Attributes): Record<string, string> {
  const found: Record<string, string> = {};
  for (const [name, value] of Object.entries(attributes)) found[bare(name)] = String(value);
  return found;
}
