const CHUNK_CHARS = 1 << 16;

/** A download made as it is read; nothing is held but one chunk. */
export function streamText(lines: Iterable<string> | AsyncIterable<string>, type: string, fileName: string): Response {
  const iterator = Symbol.asyncIterator in lines ? lines[Symbol.asyncIterator]() : lines[Symbol.iterator]();
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      let text = '';
      while (text.length < CHUNK_CHARS) {
        const { value, done } = await iterator.next();
        if (done) {
          if (text) controller.enqueue(encoder.encode(text));
          controller.close();
          return;
        }
        text += value;
      }
      controller.enqueue(encoder.encode(text));
    },
    async cancel() {
      await iterator.return?.();
    },
  });
  return new Response(body, {
    headers: { 'content-type': type, 'content-disposition': `attachment; filename="${fileName}"` },
  });
}
