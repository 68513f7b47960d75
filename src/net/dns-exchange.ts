import { randomInt } from 'node:crypto';
import { createSocket, type Socket as UdpSocket } from 'node:dgram';
import { connect, isIPv6 } from 'node:net';
import packet from 'dns-packet';

/** One DNS message in answer to a question, reduced to what is looked at. */
export interface DnsReply {
  rcode: string;
  /** The server speaks for the zone itself (AA). */
  isAuthoritative: boolean;
  /** NS records in the answer and in the authority section, with their owner in small letters. */
  nameServers: { owner: string; server: string }[];
  /** Addresses by owner, from the answer and the additional section. */
  addresses: { owner: string; address: string }[];
  hasSoa: boolean;
  /** Addresses and aliases of the answer section, their owner in small letters. */
  answers: { owner: string; type: 'A' | 'AAAA' | 'CNAME'; data: string }[];
}

export type DnsType = 'NS' | 'SOA' | 'A' | 'AAAA';

interface Waiting {
  name: string;
  resolve(reply: DnsReply & { isTruncated: boolean }): void;
  reject(error: Error): void;
  timer: NodeJS.Timeout;
}

const UDP_PAYLOAD_BYTES = 1232;
/** Sockets that questions are spread over: an answer must guess its port besides its number (RFC 5452). */
const SOCKETS = 16;
/** A socket is given up after so many questions, so that its port does not stay guessable. */
const QUESTIONS_PER_SOCKET = 4000;

interface Line {
  socket: UdpSocket;
  waiting: Map<string, Waiting>;
  sent: number;
}

/** Sends DNS questions and finds their answers (RFC 1035; EDNS0 payload size by RFC 6891; TCP after truncation, RFC 7766). */
export class DnsExchange {
  private readonly lines: { v4: Line[]; v6: Line[] } = { v4: [], v6: [] };
  private turn = 0;
  private isClosed = false;

  constructor(private readonly timeoutMs: number) {}

  /**
   * Asks one server.
   *
   * @param server `host:port`, the host as an IP address or a name the system knows.
   * @param isRecursive whether it is a resolver that is to find out, or a server that is to tell what it holds itself.
   * @throws Error in words when there is no usable answer in time.
   */
  async ask(server: string, name: string, type: DnsType, isRecursive: boolean): Promise<DnsReply> {
    const question = packet.encode({
      type: 'query',
      id: 0,
      flags: isRecursive ? packet.RECURSION_DESIRED : 0,
      questions: [{ type, name, class: 'IN' }],
      additionals: [
        {
          type: 'OPT',
          name: '.',
          udpPayloadSize: UDP_PAYLOAD_BYTES,
          extendedRcode: 0,
          ednsVersion: 0,
          flags: 0,
          flag_do: false,
          options: [],
        },
      ],
    });
    const reply = await this.overUdp(server, question, name);
    return reply.isTruncated ? this.overTcp(server, question, name) : reply;
  }

  close(): void {
    this.isClosed = true;
    for (const line of [...this.lines.v4, ...this.lines.v6]) {
      for (const { reject, timer } of line.waiting.values()) {
        clearTimeout(timer);
        reject(new Error('stopped'));
      }
      line.waiting.clear();
      line.socket.close();
    }
    this.lines.v4.length = 0;
    this.lines.v6.length = 0;
  }

  private overUdp(server: string, question: Buffer, name: string): Promise<DnsReply & { isTruncated: boolean }> {
    const { host, port } = hostPort(server);
    return new Promise((resolve, reject) => {
      if (this.isClosed) return reject(new Error('stopped'));
      const line = this.line(isIPv6(host));
      let id = randomInt(65_536);
      while (line.waiting.has(`${id} ${port}`)) id = randomInt(65_536);
      const key = `${id} ${port}`;
      question.writeUInt16BE(id, 0);
      const timer = setTimeout(() => {
        line.waiting.delete(key);
        reject(new Error('no answer in time'));
      }, this.timeoutMs);
      line.waiting.set(key, { name, resolve, reject, timer });
      line.socket.send(question, port, host, (error) => {
        if (!error) return;
        clearTimeout(timer);
        line.waiting.delete(key);
        reject(error);
      });
    });
  }

  private line(isV6: boolean): Line {
    const lines = isV6 ? this.lines.v6 : this.lines.v4;
    const at = this.turn++ % SOCKETS;
    const known = lines[at];
    if (known && (known.sent++ < QUESTIONS_PER_SOCKET || known.waiting.size > 0)) return known;
    known?.socket.close();
    const line: Line = { socket: createSocket(isV6 ? 'udp6' : 'udp4'), waiting: new Map(), sent: 1 };
    line.socket.on('error', () => undefined); // the question runs out of time
    line.socket.on('message', (message, from) => {
      if (message.length < 12) return;
      const key = `${message.readUInt16BE(0)} ${from.port}`;
      const waiting = line.waiting.get(key);
      const reply = waiting && readReply(message, waiting.name);
      if (!waiting || !reply) return; // what does not match the question is not an answer to it
      clearTimeout(waiting.timer);
      line.waiting.delete(key);
      waiting.resolve(reply);
    });
    lines[at] = line;
    return line;
  }

  private overTcp(server: string, question: Buffer, name: string): Promise<DnsReply> {
    const { host, port } = hostPort(server);
    const id = question.readUInt16BE(0);
    return new Promise((resolve, reject) => {
      const socket = connect({ host, port });
      let received = Buffer.alloc(0);
      socket.setTimeout(this.timeoutMs, () => socket.destroy(new Error('no answer in time over TCP')));
      socket.on('error', reject);
      socket.on('close', () => reject(new Error('the answer over TCP was cut short')));
      socket.on('connect', () => {
        const length = Buffer.alloc(2);
        length.writeUInt16BE(question.length);
        socket.write(Buffer.concat([length, question]));
      });
      socket.on('data', (chunk) => {
        received = Buffer.concat([received, chunk]);
        if (received.length < 2 || received.length < 2 + received.readUInt16BE(0)) return;
        const message = received.subarray(2, 2 + received.readUInt16BE(0));
        const reply = message.length >= 12 && message.readUInt16BE(0) === id ? readReply(message, name) : null;
        if (reply) resolve(reply);
        else reject(new Error('the answer over TCP cannot be read'));
        socket.destroy();
      });
    });
  }
}

function readReply(message: Buffer, name: string): (DnsReply & { isTruncated: boolean }) | null {
  let decoded: packet.DecodedPacket & { rcode?: string };
  try {
    decoded = packet.decode(message);
  } catch {
    return null;
  }
  if (decoded.type !== 'response' || decoded.questions?.[0]?.name.toLowerCase() !== name) return null;
  const reply: DnsReply & { isTruncated: boolean } = {
    rcode: decoded.rcode ?? 'NOERROR',
    isAuthoritative: decoded.flag_aa,
    isTruncated: decoded.flag_tc,
    nameServers: [],
    addresses: [],
    hasSoa: false,
    answers: [],
  };
  for (const record of decoded.answers ?? [])
    if (record.type === 'A' || record.type === 'AAAA' || record.type === 'CNAME')
      reply.answers.push({ owner: record.name.toLowerCase(), type: record.type, data: String(record.data) });
  const sections = [decoded.answers ?? [], decoded.authorities ?? [], decoded.additionals ?? []];
  for (const record of sections.flat()) {
    if (record.type === 'NS')
      reply.nameServers.push({ owner: record.name.toLowerCase(), server: String(record.data).toLowerCase() });
    else if (record.type === 'A' || record.type === 'AAAA')
      reply.addresses.push({ owner: record.name.toLowerCase(), address: String(record.data) });
    else if (record.type === 'SOA') reply.hasSoa = true;
  }
  return reply;
}

/** Splits `127.0.0.1:53` and `[::1]:53`. */
export function hostPort(text: string, defaultPort = 53): { host: string; port: number } {
  const found = /^(?:\[([^\]]+)\]|([^:]+))(?::(\d+))?$/.exec(text);
  if (!found) return { host: text, port: defaultPort };
  return { host: found[1] ?? found[2], port: found[3] ? Number(found[3]) : defaultPort };
}
