import { createSocket, type Socket as UdpSocket } from 'node:dgram';
import { createServer, type Server } from 'node:net';
import packet from 'dns-packet';
import { hash } from './random';
import { nameServersOf } from './registries';
import { stateAt, type World } from './world';

const NXDOMAIN = 3;
const SERVFAIL = 2;

/** A resolver over the world. UDP and TCP (RFC 1035, 7766); some answers are cut over UDP, a few names are lame. */
export function makeDns(world: World, now: () => number): { udp: UdpSocket; tcp: Server } {
  const udp = createSocket('udp4');
  udp.on('message', (message, remote) => {
    const reply = answer(world, message, now(), true);
    if (reply) udp.send(reply, remote.port, remote.address);
  });
  const tcp = createServer((socket) => {
    let received = Buffer.alloc(0);
    socket.setTimeout(5000, () => socket.destroy());
    socket.on('error', () => undefined);
    socket.on('data', (chunk) => {
      received = Buffer.concat([received, chunk]);
      while (received.length >= 2 && received.length >= 2 + received.readUInt16BE(0)) {
        const end = 2 + received.readUInt16BE(0);
        const reply = answer(world, received.subarray(2, end), now(), false);
        received = received.subarray(end);
        if (!reply) return socket.destroy();
        const length = Buffer.alloc(2);
        length.writeUInt16BE(reply.length);
        socket.write(Buffer.concat([length, reply]));
      }
    });
  });
  return { udp, tcp };
}

function answer(world: World, message: Buffer, now: number, isUdp: boolean): Buffer | null {
  let query: packet.Packet;
  try {
    query = packet.decode(message);
  } catch {
    return null;
  }
  const question = query.questions?.[0];
  if (!question || query.type !== 'query') return null;
  const name = question.name.toLowerCase();
  const labels = name.split('.');
  const domain = labels.map((_, i) => world.domains.get(labels.slice(i).join('.'))).find(Boolean);
  const reply = {
    type: 'response' as const,
    id: query.id,
    flags: packet.RECURSION_DESIRED | packet.RECURSION_AVAILABLE,
    questions: [question],
  };
  const kind = hash(name) % 97;
  if (kind === 5 && domain?.role === 'background') return packet.encode({ ...reply, flags: reply.flags | SERVFAIL });
  if (!domain || !stateAt(domain, now).delegated) return packet.encode({ ...reply, flags: reply.flags | NXDOMAIN });
  if (isUdp && kind === 7) return packet.encode({ ...reply, flags: reply.flags | packet.TRUNCATED_RESPONSE });
  if (question.type === 'NS' && name === domain.name)
    return packet.encode({
      ...reply,
      answers: nameServersOf(domain).map((data) => ({ type: 'NS' as const, name, ttl: 3600, data })),
    });
  if (question.type === 'A')
    return packet.encode({ ...reply, answers: [{ type: 'A' as const, name, ttl: 300, data: '127.0.0.1' }] });
  return packet.encode(reply);
}
