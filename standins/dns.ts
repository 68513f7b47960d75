import { createSocket, type Socket as UdpSocket } from 'node:dgram';
import { type AddressInfo, createServer, type Server } from 'node:net';
import packet from 'dns-packet';
import { ownerSigns } from './owners';
import { hash } from './random';
import { isRegistryOwn, nameServersOf } from './registries';
import { ENDINGS } from './words';
import { stateAt, type World } from './world';

const NXDOMAIN = 3;
const SERVFAIL = 2;
const REFUSED = 5;

/** Listens on the same port for UDP and TCP, one that is free for both. @returns the port. */
export async function bindBoth(udp: UdpSocket, tcp: Server, host: string): Promise<number> {
  for (let attempt = 0; attempt < 20; attempt++) {
    await new Promise<void>((done, fail) => tcp.once('error', fail).listen(0, host, done));
    const { port } = tcp.address() as AddressInfo;
    const isBound = await new Promise<boolean>((done) => {
      const onError = () => done(false);
      udp.once('error', onError).bind(port, host, () => {
        udp.off('error', onError);
        done(true);
      });
    });
    if (isBound) return port;
    await new Promise((done) => tcp.close(done));
  }
  throw new Error('no port is free for UDP and TCP');
}

/** A resolver over the world, and the servers of its endings for who does not ask for recursion. UDP and TCP (RFC 1035, 7766); some answers are cut over UDP, a few names are lame. */
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
  let query: packet.DecodedPacket;
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
  const state = domain && stateAt(domain, now);
  const isOwn = isRegistryOwn(name);
  const servers = isOwn ? [`ns1.${name}`, `ns2.${name}`] : domain && state?.delegated ? nameServersOf(domain, now) : [];
  const owner = isOwn ? name : (domain?.name ?? null);
  const isCut = isUdp && hash(name) % 97 === 7;
  const flags = isCut ? packet.TRUNCATED_RESPONSE : 0;
  const records = (owner: string): packet.Answer[] =>
    servers.map((data) => ({ type: 'NS' as const, name: owner, ttl: 3600, data }));
  if (!query.flag_rd) return ofEnding(query, question, labels, owner, records, flags);
  const reply = {
    type: 'response' as const,
    id: query.id,
    flags: packet.RECURSION_DESIRED | packet.RECURSION_AVAILABLE,
    questions: [question],
  };
  // delegated to servers that do not speak for it
  const isLame = hash(name) % 97 === 5 && domain?.role === 'background';
  if (isLame && servers.length > 0) return packet.encode({ ...reply, flags: reply.flags | SERVFAIL });
  if (owner === null || servers.length === 0) return packet.encode({ ...reply, flags: reply.flags | NXDOMAIN });
  if (isCut) return packet.encode({ ...reply, flags: reply.flags | packet.TRUNCATED_RESPONSE });
  if (question.type === 'NS' && name === owner) return packet.encode({ ...reply, answers: records(name) });
  if (question.type === 'SOA' && name === owner) return packet.encode({ ...reply, answers: [soa(name)] });
  if (question.type === 'A' && domain)
    return packet.encode({
      ...reply,
      answers: [{ type: 'A' as const, name, ttl: 300, data: ownerSigns(domain).address }],
    });
  return packet.encode(reply);
}

const KNOWN_ENDINGS = new Set(ENDINGS.map(([ending]) => ending));

/** As the servers of an ending answer: a referral for what is delegated, "no such name" for all else. */
function ofEnding(
  query: packet.DecodedPacket,
  question: packet.Question,
  labels: string[],
  domain: string | null,
  records: (owner: string) => packet.Answer[],
  flags: number,
): Buffer {
  const reply = { type: 'response' as const, id: query.id, flags, questions: [question] };
  const ending = labels.map((_, i) => labels.slice(i).join('.')).find((suffix) => KNOWN_ENDINGS.has(suffix));
  if (!ending) return packet.encode({ ...reply, flags: REFUSED });
  const authorities = domain === null ? [] : records(domain);
  if (authorities.length > 0) return packet.encode({ ...reply, authorities });
  return packet.encode({
    ...reply,
    flags: flags | packet.AUTHORITATIVE_ANSWER | NXDOMAIN,
    authorities: [soa(ending)],
  });
}

function soa(name: string): packet.Answer {
  const data = {
    mname: `a.${name}`,
    rname: `post.${name}`,
    serial: 1,
    refresh: 3600,
    retry: 600,
    expire: 86_400,
    minimum: 300,
  };
  return { type: 'SOA', name, ttl: 300, data };
}
