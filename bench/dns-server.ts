import { createSocket } from 'node:dgram';
import packet from 'dns-packet';

/**
 * The servers of an ending, in a process of their own: a referral for names with an even number in them, "no such name" for the
 * others. Counts what it is asked, and says so for `count.`: how many questions, and how many names more than once.
 */
const socket = createSocket({ type: 'udp4', recvBufferSize: 1 << 22 });
const times = new Map<string, number>();
const AUTHORITATIVE_NXDOMAIN = packet.AUTHORITATIVE_ANSWER | 3;

socket.on('message', (message, from) => {
  const query = packet.decode(message);
  const name = query.questions?.[0].name ?? '';
  const reply = { type: 'response' as const, id: query.id, questions: query.questions };
  if (name === 'count') {
    let more = 0;
    for (const count of times.values()) more += count - 1;
    const answers: packet.Answer[] = [{ type: 'TXT', name, data: `${times.size} ${more}` }];
    socket.send(packet.encode({ ...reply, answers }), from.port, from.address);
    return;
  }
  times.set(name, (times.get(name) ?? 0) + 1);
  const isThere = Number(/\d+/.exec(name)?.[0] ?? 1) % 2 === 0;
  const authorities: packet.Answer[] = [{ type: 'NS', name, ttl: 60, data: 'ns1.coombehosting.net' }];
  const answer = isThere ? { ...reply, authorities } : { ...reply, flags: AUTHORITATIVE_NXDOMAIN };
  socket.send(packet.encode(answer), from.port, from.address);
});
socket.bind(0, '127.0.0.1', () => process.stdout.write(`${socket.address().port}\n`));
