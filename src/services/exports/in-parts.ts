const PART_CHARS = 1 << 16;

/** Texts put together, so that few go out at a time. */
export async function* inParts(texts: AsyncIterable<string>): AsyncGenerator<Buffer> {
  let part = '';
  for await (const text of texts) {
    part += text;
    if (part.length < PART_CHARS) continue;
    yield Buffer.from(part);
    part = '';
  }
  if (part !== '') yield Buffer.from(part);
}
