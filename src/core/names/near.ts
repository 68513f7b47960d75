/** Letters of a label (RFC 5890 LDH rule). */
const LETTERS = 'abcdefghijklmnopqrstuvwxyz0123456789-';

/**
 * Labels that are one edit away: a letter left out, added, changed, or two neighbours swapped (Damerau 1964). For looking them up
 * in an index: some 75 for each letter of the label.
 *
 * @param label letters, digits and hyphens, in lower case.
 */
export function nearLabels(label: string): string[] {
  const near = new Set<string>();
  for (let at = 0; at <= label.length; at++) {
    const [before, after] = [label.slice(0, at), label.slice(at)];
    if (after !== '') near.add(before + after.slice(1));
    if (after.length > 1) near.add(before + after[1] + after[0] + after.slice(2));
    for (const letter of LETTERS) {
      near.add(before + letter + after);
      if (after !== '') near.add(before + letter + after.slice(1));
    }
  }
  near.delete(label);
  return [...near].filter((one) => one !== '' && one.length <= 63 && !one.startsWith('-') && !one.endsWith('-'));
}
