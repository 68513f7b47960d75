/** Endings under which people look for the same name, in the order they are thought of. */
export const COMMON_ENDINGS = ['com', 'org', 'net', 'co.uk', 'info', 'de', 'eu', 'me'] as const;
