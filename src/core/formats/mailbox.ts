/** A folder of mails at a server (IMAP, RFC 9051), as its address says. */
export interface Mailbox {
  host: string;
  port: number;
  /** TLS from the first byte; else it is begun before anybody logs in (RFC 9051, 6.2.1). */
  isSecure: boolean;
  login: string;
  folder: string;
  /** The address without the folder: what a password belongs to. */
  account: string;
}

const PORTS: Record<string, number> = { 'imap:': 143, 'imaps:': 993 };

/** Reads `imaps://login@host:993/folder` (RFC 5092, a server and a mailbox); without a folder INBOX is meant. null: it is none. */
export function readMailbox(address: string): Mailbox | null {
  if (!URL.canParse(address)) return null;
  const { protocol, hostname, port, username, password, pathname, search } = new URL(address);
  const usual = PORTS[protocol];
  if (usual === undefined || hostname === '' || username === '' || password !== '' || search !== '') return null;
  try {
    const login = decodeURIComponent(username);
    const folder = decodeURIComponent(pathname.replace(/^\//, '')) || 'INBOX';
    const account = `${protocol}//${username}@${hostname}:${port || usual}`;
    return { host: hostname, port: Number(port) || usual, isSecure: protocol === 'imaps:', login, folder, account };
  } catch {
    return null;
  }
}

/** A part of a mail that may be a list. */
export interface MailPart {
  /** Where it stands in the mail (RFC 9051, 6.4.5). */
  part: string;
  /** Of an attachment its name; '': it has none, or is the text of the mail. */
  name: string;
  /** As it was sent, of an attachment with base64 more than the file has. */
  bytes: number;
  /** `text/csv` and its like, in small letters. */
  type: string;
}

/** The parts of a mail as a server lays them out (RFC 9051, 7.5.2). */
export interface MailStructure {
  part?: string;
  type: string;
  size?: number;
  disposition?: string;
  dispositionParameters?: { filename?: string } & Record<string, string>;
  parameters?: { name?: string } & Record<string, string>;
  childNodes?: MailStructure[];
}

/** What is no list, whatever it is called. */
const NO_LIST =
  /^(image|audio|video|font|message|multipart)\/|^application\/(pdf|pgp-|pkcs7-|x-pkcs7-|ics)|^text\/(calendar|vcard|x-vcard)/;

/**
 * What of a mail may be a list: its attachments; and where it has none, its texts, the one with tables first.
 *
 * @returns `bodies` is one text in several forms: the first that is a list is it.
 */
export function mailParts(structure: MailStructure): { attachments: MailPart[]; bodies: MailPart[] } {
  const attachments: MailPart[] = [];
  const bodies: MailPart[] = [];
  const walk = (node: MailStructure) => {
    for (const child of node.childNodes ?? []) walk(child);
    const type = node.type.toLowerCase();
    if (node.childNodes || NO_LIST.test(type)) return;
    const name = node.dispositionParameters?.filename ?? node.parameters?.name ?? '';
    const part = { part: node.part ?? '1', name, bytes: node.size ?? 0, type };
    const isText = type === 'text/html' || type === 'text/plain';
    if (name !== '' || node.disposition === 'attachment' || !isText) attachments.push(part);
    else bodies.push(part);
  };
  walk(structure);
  const rank = ({ type }: MailPart) => (type === 'text/html' ? 0 : 1);
  return { attachments, bodies: bodies.sort((a, b) => rank(a) - rank(b)) };
}
