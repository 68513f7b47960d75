/** Why a page was not read: what robots.txt says, what the server answered, or how the network failed (the codes of NetError). */
export const UNREAD_CAUSES = [
  'robots', 'type', 'status', 'name-not-found', 'name-unsure', 'private-address', 'wrong-port', 'refused', 'timeout', 'too-large', 'headers-too-large',
  'bad-encoding', 'bad-answer', 'connection',
] as const; // biome-ignore format: a list
export type UnreadCause = (typeof UNREAD_CAUSES)[number];
