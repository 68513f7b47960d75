/** Control characters but tab and line ends, and those that turn the direction of text (Unicode TR 9), which could make a line lie. */
const UNSAFE = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g;
/** Half of a surrogate pair: what is left when a text is cut in the middle of a character. */
const LONE = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/**
 * A text from outside, fit to be kept and shown in one line: no control characters, white space as single spaces, cut to a length.
 *
 * @param most characters (UTF-16 units); a cut text ends in an ellipsis.
 */
export function plainText(text: string, most: number): string {
  // what is far beyond the cut is not looked at: texts of megabytes are met
  const near = text.length > 8 * most ? text.slice(0, 8 * most) : text;
  const plain = near.replace(UNSAFE, '').replace(/\s+/g, ' ').trim();
  const cut = plain.length > most ? `${plain.slice(0, most - 1)}…` : plain;
  return cut.replace(LONE, '');
}
