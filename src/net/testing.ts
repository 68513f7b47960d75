import { createSocket } from 'node:dgram';
import { createServer as createHttp, type RequestListener } from 'node:http';
import { type AddressInfo, createServer as createTcp, type Server, type Socket } from 'node:net';
import packet from 'dns-packet';

const open: (() => void)[] = [];

/** Closes what the servers below opened. */
export function closeServers(): void {
  for (const close of open.splice(0)) close();
}

async function listening(server: Server): Promise<string> {
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  return `127.0.0.1:${(server.address() as AddressInfo).port}`;
}

/** A server of whatever protocol: `talk` has each connection. @returns its `host:port`. */
export async function tcpServer(talk: (socket: Socket) => void): Promise<string> {
  const sockets = new Set<Socket>();
  const server = createTcp((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined);
    socket.on('close', () => sockets.delete(socket));
    talk(socket);
  });
  open.push(() => {
    server.close();
    for (const socket of sockets) socket.destroy();
  });
  return listening(server);
}

/** @returns its `host:port`. */
export async function httpServer(reply: RequestListener): Promise<string> {
  const server = createHttp(reply);
  open.push(() => {
    server.close();
    server.closeAllConnections();
  });
  return listening(server);
}

export type DnsReplier = (query: packet.Packet, overTcp: boolean) => Buffer | null;

/** A server of DNS over UDP and TCP; null: it says nothing, and closes connections. @returns its `host:port`. */
export async function dnsServer(reply: DnsReplier): Promise<string> {
  const tcp = createTcp((socket) => {
    socket.on('error', () => undefined);
    socket.on('data', (data) => {
      const answer = reply(packet.decode(data.subarray(2)), true);
      if (!answer) return socket.destroy();
      const length = Buffer.alloc(2);
      length.writeUInt16BE(answer.length);
      // in two parts, as networks do
      socket.write(length);
      setTimeout(() => socket.write(answer), 5);
    });
  });
  const udp = createSocket('udp4');
  udp.on('message', (message, remote) => {
    const answer = reply(packet.decode(message), false);
    if (answer) udp.send(answer, remote.port, remote.address);
  });
  // a port that is free for both: where a connection has the number already, another
  for (let attempt = 0; ; attempt++) {
    await new Promise<void>((done, fail) => tcp.once('error', fail).listen(0, '127.0.0.1', done));
    const { port: free } = tcp.address() as AddressInfo;
    const isBound = await new Promise<boolean>((done) =>
      udp.once('error', () => done(false)).bind(free, '127.0.0.1', () => done(true)),
    );
    if (isBound) break;
    if (attempt > 20) throw new Error('no port is free for UDP and TCP');
    await new Promise((done) => tcp.close(done));
  }
  const { port } = udp.address();
  open.push(
    () => tcp.close(),
    () => udp.close(),
  );
  return `127.0.0.1:${port}`;
}

/** An answer to a question, in wire format (RFC 1035, 4). */
export const dnsAnswer = (query: packet.Packet, part: Partial<packet.Packet> & { rcode?: number } = {}) => {
  const { rcode = 0, flags = 0, ...rest } = part;
  return packet.encode({ type: 'response', id: query.id, questions: query.questions, ...rest, flags: flags | rcode });
};
