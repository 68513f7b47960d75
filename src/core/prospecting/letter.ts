/** What a letter is written from; all of it was seen. */
export interface LetterFacts {
  /** The page that links, and what it is called; null: it has no title. */
  pageUrl: string;
  pageTitle: string | null;
  anchor: string;
  deadUrl: string;
  /** What came instead of the page, in words. */
  outcome: string;
  /** When that was seen, ms since 1970 UTC. */
  checkedAt: number;
  ownUrl: string;
  ownTitle: string | null;
  /** The domain is one's own by now: its address has moved rather than gone. */
  isMoved: boolean;
}

export interface Letter {
  subject: string;
  text: string;
}

const MOST_TITLE = 80;

/** A draft to one owner of one page: which link is dead, since when that is known, and what could stand there instead. */
export function letterFor(facts: LetterFacts): Letter {
  const { pageUrl, pageTitle, anchor, deadUrl, outcome, checkedAt, ownUrl, ownTitle, isMoved } = facts;
  const called = oneLine(pageTitle ?? '');
  const words = oneLine(anchor);
  const day = new Date(checkedAt).toISOString().slice(0, 10);
  const own = `${ownTitle ? `“${oneLine(ownTitle)}”, ` : ''}${ownUrl}`;
  const links = `your page ${called ? `“${called}” ` : ''}(${pageUrl}) links to ${deadUrl}${words ? ` with the words “${words}”` : ''}.`;
  const paragraphs = isMoved
    ? [
        'Hello,',
        `${links} I look after that domain now, and what stood there has moved.`,
        `It is at ${own}. A link straight there would spare your readers the way round; the old address is sent on as long as I have it.`,
        'Thank you for keeping the page.',
      ]
    : [
        'Hello,',
        `${links} That page is gone: ${outcome} when I looked on ${day}.`,
        `A page of mine is about the same: ${own}. If you find that it serves your readers, it could stand there instead. If not, you may still want to take the dead link out.`,
        'Thank you for keeping the page.',
      ];
  const where = called || hostOf(pageUrl);
  return {
    subject: isMoved ? `A link on ${where} that has moved` : `A dead link on ${where}`,
    text: paragraphs.join('\n\n'),
  };
}

/**
 * A letter as an address that a mail program opens (RFC 6068): to one recipient, for a person to read over and send.
 *
 * @returns null where the contact is no mail address, or would carry more than one.
 */
export function mailAddress(contact: string | null, { subject, text }: Letter): string | null {
  const address = (contact ?? '')
    .replace(/^mailto:/i, '')
    .split('?')[0]
    .trim();
  if (!/^[^\s@,;<>"%&?]+@[^\s@,;<>"%&?]+\.[^\s@,;<>"%&?]+$/.test(address)) return null;
  return `mailto:${address}?subject=${encoded(subject)}&body=${encoded(text.replace(/\n/g, '\r\n'))}`;
}

/** Half a character, as a cut may leave, cannot be encoded. */
const encoded = (text: string) => encodeURIComponent(text.replace(/\p{Cs}/gu, ''));

/** What was written elsewhere stays on its line, and within bounds. */
const oneLine = (text: string) =>
  text
    .replace(/[\s\p{Cc}\p{Cf}]+/gu, ' ')
    .trim()
    .slice(0, MOST_TITLE);

function hostOf(url: string): string {
  try {
    return new URL(url).hostname.replace(/^www\./, '');
  } catch {
    return url;
  }
}
