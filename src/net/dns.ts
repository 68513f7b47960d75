import { createSocket } from 'node:dgram';
import { connect } from 'node:net';
import packet from 'dns-packet';
import type { DnsOutcome } from '../core/lifecycle/phase';

export interface DnsAnswer {
  outcome: DnsOutcome;
  /** `host:port` that answered last. */
  server: string;
  nameServers: string[];
  /** What was said, in words: rcode, or how it failed. */
  detail: string;
  elapsedMs: number;
}

export interface DnsOptions {
  /** `host:port` of recursive resolvers, tried in order. */
  resolvers: string[];
  timeoutMs: number;
  tries: number;
}

interface Reply {
  rcode: string;
  truncated: boolean;
  nameServers: string[];
}

const UDP_PAYLOAD_BYTES = 1232;

/** Asks for the NS records of a domain (RFC 1035; EDNS0 payload size by RFC 6891; TCP after truncation, RFC 7766). */
export class DnsClient {
  constructor(private readonly options: DnsOptions) {}

  /** Never throws: a failure is an outcome. A failure of one resolver sends the question to the next. */
  async delegation(name: string): Promise<DnsAnswer> {
    const started = performance.now();
    let detail = 'no resolver is set';
    let server = '';
    for (let attempt = 0; attempt < this.options.tries; attempt++) {
      for (server of this.options.resolvers) {
        try {
          const reply = await this.ask(server, name);
          const outcome = outcomeOf(reply);
          detail = reply.rcode;
          if (outcome !== 'failed')
            return {
              outcome,
              server,
              nameServers: reply.nameServers,
              detail,
              elapsedMs: Math.round(performance.now() - started),
            };
        } catch (error) {
          detail = (error as Error).message;
        }
      }
    }
    return { outcome: 'failed', server, nameServers: [], detail, elapsedMs: Math.round(performance.now() - started) };
  }

  private async ask(server: string, name: string): Promise<Reply> {
    const id = Math.floor(Math.random() * 65536);
    const question = packet.encode({
      type: 'query',
      id,
      flags: packet.RECURSION_DESIRED,
      questions: [{ type: 'NS', name, class: 'IN' }],
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
    const reply = await this.overUdp(server, question, id, name);
    return reply.truncated ? this.overTcp(server, question, id, name) : reply;
  }

  private overUdp(server: string, question: Buffer, id: number, name: string): Promise<Reply> {
    const { host, port } = hostPort(server);
    return new Promise((resolve, reject) => {
      const socket = createSocket(host.includes(':') ? 'udp6' : 'udp4');
      const done = (act: () => void) => {
        clearTimeout(timer);
        socket.close();
        act();
      };
      const timer = setTimeout(() => done(() => reject(new Error('no answer in time'))), this.options.timeoutMs);
      socket.on('error', (error) => done(() => reject(error)));
      socket.on('message', (message) => {
        const reply = readReply(message, id, name);
        if (reply) done(() => resolve(reply)); // what does not match the question is not an answer to it
      });
      socket.connect(port, host, () => socket.send(question));
    });
  }

  private overTcp(server: string, question: Buffer, id: number, name: string): Promise<Reply> {
    const { host, port } = hostPort(server);
    return new Promise((resolve, reject) => {
      const socket = connect({ host, port });
      let received = Buffer.alloc(0);
      socket.setTimeout(this.options.timeoutMs, () => socket.destroy(new Error('no answer in time over TCP')));
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
        const reply = readReply(received.subarray(2, 2 + received.readUInt16BE(0)), id, name);
        if (reply) resolve(reply);
        else reject(new Error('the answer over TCP cannot be read'));
        socket.destroy();
      });
    });
  }
}

function readReply(message: Buffer, id: number, name: string): Reply | null {
  let decoded: packet.DecodedPacket & { rcode?: string };
  try {
    decoded = packet.decode(message);
  } catch {
    return null;
  }
  const asked = decoded.questions?.[0];
  if (decoded.id !== id || decoded.type !== 'response' || asked?.name.toLowerCase() !== name) return null;
  const nameServers = (decoded.answers ?? []).flatMap((answer) =>
    answer.type === 'NS' && answer.name.toLowerCase() === name ? [String(answer.data).toLowerCase()] : [],
  );
  return { rcode: decoded.rcode ?? 'NOERROR', truncated: decoded.flag_tc, nameServers };
}

function outcomeOf(reply: Reply): DnsOutcome {
  if (reply.rcode === 'NXDOMAIN') return 'nxdomain';
  if (reply.rcode !== 'NOERROR') return 'failed';
  return reply.nameServers.length > 0 ? 'delegated' : 'no-delegation';
}

/** Splits `127.0.0.1:53` and `[::1]:53`. */
export function hostPort(text: string, defaultPort = 53): { host: string; port: number } {
  const found = /^(?:\[([^\]]+)\]|([^:]+))(?::(\d+))?$/.exec(text);
  if (!found) return { host: text, port: defaultPort };
  return { host: found[1] ?? found[2], port: found[3] ? Number(found[3]) : defaultPort };
}
