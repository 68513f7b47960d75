/** The length that stands before each message (RFC 5734, 4), which counts itself. */
const HEADER_BYTES = 4;
/** Longer than anything that is asked for here; what claims to be longer speaks another protocol. */
const MOST_BYTES = 1 << 20;

/** A message as it goes over the line: four octets of its length, most significant first, then UTF-8. */
export function frameOf(message: string): Buffer {
  const body = Buffer.from(message, 'utf8');
  const frame = Buffer.alloc(HEADER_BYTES + body.length);
  frame.writeUInt32BE(frame.length);
  body.copy(frame, HEADER_BYTES);
  return frame;
}

/** Puts messages together of the parts that they come in. */
export class FrameReader {
  private held = Buffer.alloc(0);

  /**
   * @returns the messages that are whole by now, as text.
   * @throws Error when a length makes no sense: what comes after it cannot be read either.
   */
  push(part: Buffer): string[] {
    this.held = Buffer.concat([this.held, part]);
    const messages: string[] = [];
    while (this.held.length >= HEADER_BYTES) {
      const length = this.held.readUInt32BE();
      if (length <= HEADER_BYTES || length > MOST_BYTES)
        throw new Error(`a message of ${length} bytes is announced: this is no EPP`);
      if (this.held.length < length) break;
      messages.push(this.held.toString('utf8', HEADER_BYTES, length));
      this.held = this.held.subarray(length);
    }
    return messages;
  }
}
