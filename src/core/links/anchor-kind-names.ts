/** What the words of a link are: the site's name, its address, words put anywhere, words that sell, another script, the site's subject, or else. */
export const ANCHOR_KINDS = ['name', 'address', 'generic', 'money', 'other-script', 'subject', 'other'] as const;
export type AnchorKind = (typeof ANCHOR_KINDS)[number];
