// `npm run architecture`: draws docs/architecture.svg from the imports between the parts of src, as they are. A test compares them.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { ROOT } from './prepare.mjs';

const SRC = join(ROOT, 'src');
/** Parts from top to bottom: each imports only what lies below it. */
const LAYERS = [['app'], ['ui', 'services', 'client'], ['engine', 'cli'], ['store', 'net', 'contracts'], ['core']];

const partOf = (path) => {
  const [first] = relative(SRC, path).split('/');
  return first.includes('.') ? 'app' : first;
};

function* sources(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sources(path);
    else if (/\.tsx?$/.test(entry.name) && !/\.(test|fixtures)\.ts$|^testing\.ts$/.test(entry.name)) yield path;
  }
}

/**
 * Parts with their rooms and lines, and which imports which.
 *
 * @returns {{ parts: Map<string, { rooms: Set<string>, files: number, lines: number }>, edges: Map<string, number> }} edges: "from to", with how many imports.
 */
export function readParts() {
  const parts = new Map(LAYERS.flat().map((part) => [part, { rooms: new Set(), files: 0, lines: 0 }]));
  const edges = new Map();
  for (const path of sources(SRC)) {
    const text = readFileSync(path, 'utf8');
    const from = partOf(path);
    const part = parts.get(from);
    if (!part) throw new Error(`${relative(ROOT, path)} is in no part that is drawn`);
    part.files++;
    part.lines += text.split('\n').length;
    const room = relative(SRC, path).split('/')[1];
    if (room && !room.includes('.')) part.rooms.add(room);
    for (const [, spec] of text.matchAll(/(?:from|import\()\s*'(\.{1,2}\/[^']+|@\/[^']+)'/g)) {
      const to = partOf(spec.startsWith('@/') ? join(SRC, spec.slice(2)) : resolve(dirname(path), spec));
      if (to !== from && parts.has(to)) edges.set(`${from} ${to}`, (edges.get(`${from} ${to}`) ?? 0) + 1);
    }
  }
  return { parts, edges };
}

const WIDTH = 1080;
const BOX = { height: 92, gap: 64, pad: 20 };

/** The picture, as SVG. */
export function drawParts({ parts, edges }) {
  const boxes = new Map();
  LAYERS.forEach((layer, row) => {
    const width = (WIDTH - BOX.pad * (layer.length + 1)) / layer.length;
    layer.forEach((part, n) => {
      boxes.set(part, {
        x: BOX.pad + n * (width + BOX.pad),
        y: BOX.pad + row * (BOX.height + BOX.gap),
        width,
        height: BOX.height,
      });
    });
  });
  const height = BOX.pad + LAYERS.length * (BOX.height + BOX.gap) - BOX.gap + BOX.pad;
  const lines = [...edges].sort(([a], [b]) => (a < b ? -1 : 1)).map(([edge, count]) => arrow(boxes, edge, count));
  const drawn = [...boxes].map(([part, box]) => boxOf(part, box, parts.get(part)));
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${height}" role="img" aria-label="Parts of the product and what each imports">
<defs><marker id="tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto"><path d="M0 0 8 4 0 8z" fill="#6d5f63"/></marker></defs>
<rect width="${WIDTH}" height="${height}" fill="#f5efe4"/>
${lines.join('\n')}
${drawn.join('\n')}
</svg>
`;
}

function boxOf(part, { x, y, width, height }, { rooms, files }) {
  const text = wrapped([...rooms].sort().join(', '), width / 5.7).slice(0, 5);
  return `<g font-family="Hanken Grotesk, sans-serif" fill="#2b2027"><rect x="${x}" y="${y}" width="${width}" height="${height}" fill="#fcf9f3" stroke="#6d2448"/>
<text x="${x + 10}" y="${y + 20}" font-size="14" font-weight="600">src/${part}</text><text x="${x + width - 10}" y="${y + 20}" font-size="11" text-anchor="end" fill="#6d5f63">${files} files</text>
${text.map((line, n) => `<text x="${x + 10}" y="${y + 38 + 14 * n}" font-size="11" fill="#6d5f63">${line}</text>`).join('')}</g>`;
}

function wrapped(text, most) {
  const lines = [''];
  for (const word of text.split(' '))
    if (`${lines.at(-1)} ${word}`.length > most) lines.push(word);
    else lines[lines.length - 1] = `${lines.at(-1)} ${word}`.trim();
  return lines;
}

/** From the lower edge of one box to the upper of another; beside each other, from side to side. */
function arrow(boxes, edge, count) {
  const [from, to] = edge.split(' ').map((part) => boxes.get(part));
  const middle = (box) => box.x + box.width / 2;
  const isBeside = from.y === to.y;
  const side = middle(from) < middle(to) ? 1 : -1;
  // arrows that share an edge of a box leave it at places of their own
  const at = (box, other) =>
    middle(box) + Math.max(-box.width / 2 + 16, Math.min(box.width / 2 - 16, (middle(other) - middle(box)) * 0.35));
  const [x1, y1, x2, y2] = isBeside
    ? [side > 0 ? from.x + from.width : from.x, from.y + 60, side > 0 ? to.x : to.x + to.width, to.y + 60]
    : [
        at(from, to),
        from.y < to.y ? from.y + from.height : from.y,
        at(to, from),
        from.y < to.y ? to.y : to.y + to.height,
      ];
  return `<line x1="${x1.toFixed(0)}" y1="${y1}" x2="${x2.toFixed(0)}" y2="${y2}" stroke="#6d5f63" stroke-opacity="0.6" stroke-width="${(0.6 + 0.5 * Math.log10(count)).toFixed(1)}" marker-end="url(#tip)"><title>${edge.replace(' ', ' imports ')}</title></line>`;
}

/** What the picture says imports what, for the test that it is true. */
export const edgesDrawn = (svg) =>
  [...svg.matchAll(/<title>(\w+) imports (\w+)<\/title>/g)].map(([, a, b]) => `${a} ${b}`).sort();

if (process.argv[1] === import.meta.filename) {
  writeFileSync(join(ROOT, 'docs/architecture.svg'), drawParts(readParts()));
  console.log('docs/architecture.svg is drawn');
}
