/** A word, a figure or a sign of a line, with its place in UTF-16 units. */
export interface Token {
  kind: 'number' | 'word' | 'quoted' | 'tld' | 'sign' | 'end';
  /** In lower case; of a quoted one what stands inside. */
  text: string;
  value: number;
  start: number;
  end: number;
}

const TOKEN =
  /(?<quoted>["“„']([^"“”„']+)["”'])|(?<number>\d+(?:,\d{3})+(?![\d])(?:\.\d+)?|\d+(?:\.\d+)?)(?<suffix>[km](?![\p{L}\d]))?|(?<tld>\.[\p{L}][\p{L}\p{N}-]*(?:\.[\p{L}][\p{L}\p{N}-]*)?)|(?<word>\p{L}[\p{L}\p{M}\p{N}’]*(?:'\p{L}+)?(?:[-.](?=\p{L})[\p{L}\p{N}]+)*)|(?<sign>>=|<=|≥|≤|[-–<>=+€$£,;\n!])/gu;
const SIGNS: Readonly<Record<string, string>> = { '≥': '>=', '≤': '<=', '–': '-', ';': ',', '\n': ',' };

/** The parts of a line in order, with an end behind them; what is none of them is left out. */
export function tokensOf(line: string): Token[] {
  const tokens: Token[] = [];
  for (const match of line.matchAll(TOKEN)) {
    const { quoted, number, suffix, tld, sign } = match.groups ?? {};
    const start = match.index;
    const token = { value: 0, start, end: start + match[0].length };
    if (quoted !== undefined) tokens.push({ ...token, kind: 'quoted', text: match[2].trim().toLowerCase() });
    else if (number !== undefined) {
      const times = suffix?.toLowerCase() === 'm' ? 1e6 : suffix ? 1e3 : 1;
      tokens.push({ ...token, kind: 'number', text: number, value: Number(number.replaceAll(',', '')) * times });
    } else if (tld !== undefined) tokens.push({ ...token, kind: 'tld', text: tld.toLowerCase() });
    else if (sign !== undefined) tokens.push({ ...token, kind: 'sign', text: SIGNS[sign] ?? sign });
    else tokens.push({ ...token, kind: 'word', text: match[0].toLowerCase() });
  }
  tokens.push({ kind: 'end', text: '', value: 0, start: line.length, end: line.length });
  return tokens;
}
