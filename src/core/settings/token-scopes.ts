/** What a token lets a script do, each with what stands before it. */
export const TOKEN_SCOPES = ['read', 'gather', 'act'] as const;
export type TokenScope = (typeof TOKEN_SCOPES)[number];

export const SCOPE_WORDS: Record<TokenScope, string> = {
  read: 'read what is there',
  gather: 'read and gather: sources, checks, marks, shortlists, briefs',
  act: 'all of that, and settings, orders, sales and copies',
};

/** `owner`: only whoever has the key of the data folder. */
export type NeededScope = TokenScope | 'owner';

/** Whether what a token lets do is enough for what is asked. */
export const isEnough = (has: TokenScope, needed: NeededScope): boolean =>
  needed !== 'owner' && TOKEN_SCOPES.indexOf(has) >= TOKEN_SCOPES.indexOf(needed);
