import { Html, html } from '../../core/formats/html-text';
import { languageName } from '../../core/history/language-name';
import { day, listingWords, moment, money, phaseOrigin } from '../../core/wording/format';
import type { Dossier } from '../../services/dossier/dossier';
import { type EvidenceTable, tableOf } from '../../services/dossier/tables';
import type { Store } from '../../store/base/database';
import type { DomainRow } from '../../store/domains/domains';
import { drawLife, drawLook, LOOK_WORDS, type Shape } from '../../ui/life/shapes';
import { lifeWords } from '../../ui/lifeline';
import { verdictLine } from '../../ui/verdict';

const STATE_WORDS = { fine: 'fine', look: 'look closer', bad: 'against', open: 'open' } as const;
/** Rows of a table in the file; who wants more takes the table's own. */
const MOST_ROWS = 500;
/** Colours as on the screen by day; a file is read on paper, too. */
const STYLE = `:root{--paper:#fff;--sheet:#fff;--ink:#2b2027;--muted:#6d5f63;--rule:#e0d5c4;--faint:#ece3d4;--damson:#6d2448;--damson-soft:#f0e1e8;--on-damson:#fffaf5;--bar:#cbbba8}
body{font:13px/1.45 system-ui,sans-serif;color:var(--ink);background:#fff;max-width:1100px;margin:24px auto;padding:0 24px;font-variant-numeric:tabular-nums}
h1{font:600 27px/1.1 Georgia,serif;margin:0;overflow-wrap:anywhere}h2{font:600 18px/1.2 Georgia,serif;margin:28px 0 6px;border-top:1px solid var(--ink);padding-top:8px}
h3{font-size:13px;margin:14px 0 4px}table{border-collapse:collapse;width:100%}td,th{text-align:left;vertical-align:top;border-top:1px solid var(--rule);padding:3px 12px 3px 0;overflow-wrap:anywhere}
th{font-weight:400;color:var(--muted)}.n{text-align:right;white-space:nowrap}small{color:var(--muted)}ul{margin:0;padding-left:16px}.c{columns:2;column-gap:40px}
svg{max-width:100%;height:auto}@media print{body{margin:0}}`;

const cell = (value: string | number | null, isTime: boolean, now: number) =>
  value === null
    ? ''
    : isTime && typeof value === 'number'
      ? day(value, now)
      : typeof value === 'number'
        ? value.toLocaleString('en')
        : value;

/** Table of evidence as markup. */
function evidence(store: Store, row: DomainRow, table: EvidenceTable, now: number): Html {
  const { columns, rows, total } = tableOf(store, row, table, {
    sort: null,
    descending: false,
    filter: '',
    offset: 0,
    limit: MOST_ROWS,
  });
  if (total === 0) return html`<p>Nothing is known.</p>`;
  const isNumber = (n: number) => columns[n].type === 'number';
  return html`<table><thead><tr>${columns.map(({ title }, n) => html`<th scope="col"${isNumber(n) ? CLASS_N : null}>${title}</th>`)}</tr></thead><tbody>${rows.map(
    ({ cells, note }) =>
      html`<tr>${cells.map(
        (value, n) =>
          html`<td${isNumber(n) ? CLASS_N : null}><bdi>${cell(value, columns[n].type === 'time', now)}</bdi>${n === 0 && note ? html`<br><small>${note}</small>` : null}</td>`,
      )}</tr>`,
  )}</tbody></table>${total > rows.length ? html`<p><small>${total - rows.length} more are not in this file.</small></p>` : null}`;
}
const CLASS_N = new Html(' class="n"');

const facts = (lines: readonly (readonly [string, string | number | null | undefined])[]) =>
  html`<table><tbody>${lines
    .filter(([, value]) => value !== null && value !== undefined && value !== '')
    .map(
      ([title, value]) => html`<tr><th scope="row" style="width:180px">${title}</th><td><bdi>${value}</bdi></td></tr>`,
    )}</tbody></table>`;

function shapes(list: readonly Shape[]): Html[] {
  return list.map(({ tag, attributes, text }) => {
    const names = Object.entries(attributes).map(([name, value]) => html` ${new Html(name)}="${value}"`);
    return html`<${new Html(tag)}${names}>${text}</${new Html(tag)}>`;
  });
}

/** The dossier as one HTML file that needs nothing else: no script, no address of another place is loaded. */
export function dossierFile(store: Store, row: DomainRow, dossier: Dossier): string {
  const now = store.now();
  const { life, reasons, diligence, notes, past, record, weighing, profile, listings } = dossier;
  const drawing = drawLife({ life, links: profile.spans, from: life.from, to: life.to, width: 1100 });
  const list = (words: readonly string[]) => (words.length === 0 ? html`<p><small>nothing that is known</small></p>` : html`<ul>${words.map((one) => html`<li>${one}</li>`)}</ul>`);
  const groups = (title: string, of: readonly { title: string; domains: number; votes: number }[]) =>
    html`<h3>${title}</h3><table><tbody>${of.map((group) => html`<tr><td>${group.title}</td><td class="n">${group.domains}</td></tr>`)}</tbody></table>`;
  const body = html`<h1>${dossier.display}</h1><p>${verdictLine(dossier, now)}</p>
<p><small>Dossier of ${moment(now, 0)}, made by Jam Ladle. ${dossier.display === dossier.name ? '' : `In DNS: ${dossier.name}.`}</small></p>
<svg viewBox="0 0 ${drawing.width} ${drawing.height}" width="${drawing.width}" height="${drawing.height}" role="img" aria-label="${lifeWords(dossier, now)}" font-family="system-ui,sans-serif">${shapes(drawing.shapes)}</svg>
<p>${LOOK_WORDS.filter(([look]) => life.spans.some((span) => span.look === look)).map(([look, words]) => {
    const sample = drawLook(look);
    return html`<svg width="${sample.width}" height="${sample.height}" aria-hidden="true">${shapes(sample.shapes)}</svg> <small>${words}</small> `;
  })}</p>
<h3>Speaks for it</h3>${list(reasons.for.map(({ words }) => words))}<h3>Speaks against it</h3>${list(reasons.against.map(({ words }) => words))}${reasons.open.length > 0 ? html`<h3>Still open</h3>${list(reasons.open)}` : null}
<h2>Due diligence</h2><table><thead><tr><th scope="col">Question</th><th scope="col">Answer</th><th scope="col"></th><th scope="col">When, by whom</th></tr></thead><tbody>${diligence.map(
    ({ question, answer, state, at, by, who, found }) =>
      html`<tr><td>${question}</td><td>${answer}${found ? html`<br><small>found without you: ${found.answer}</small>` : null}</td><td>${STATE_WORDS[state]}</td><td>${at === null ? '' : moment(at, 0)}${by === 'you' ? `, ${who}` : by === 'found' ? ', found' : ''}</td></tr>`,
  )}</tbody></table>
<h2>Links</h2>${facts([
    ['Referring domains', dossier.referringDomains],
    ['Linking pages', dossier.backlinks],
    ['Effective referrers', dossier.effective],
    ['Strength', dossier.strength === null ? null : Math.round(dossier.strength * 10) / 10],
    ['Trust', dossier.trust === null ? null : Math.round(dossier.trust * 10) / 10],
    ['Trusted by way of', dossier.trustPath?.join(' → ')],
    ['Forwards to', dossier.forwardsTo],
    ['Spam risk', dossier.spamRisk === null ? null : `${dossier.spamRisk} of 100`],
    ['Measured', dossier.linksAt === null ? null : moment(dossier.linksAt, 0)],
  ])}
${weighing && weighing.networks.length > 0 ? html`<h3>Networks</h3>${list(weighing.networks.map(({ sites, signs }) => `${sites.length} sites of one owner: ${signs.join('; ')}`))}` : null}
${dossier.counts.length > 0 ? html`<h3>Counts by source</h3>${facts(dossier.counts.map((one) => [one.source, `${one.referringDomains ?? 'unknown'} domains, ${one.backlinks ?? 'unknown'} pages, ${day(one.at, 0)}`] as const))}` : null}
${groups('By TLD', profile.endings)}${groups('By country', profile.countries)}${groups('By language', profile.languages)}
<h3>Referring domains</h3>${evidence(store, row, 'referrers', now)}
${dossier.spam && dossier.spam.card.risk !== null ? html`<h3>Rules of the spam risk</h3><table><tbody>${dossier.spam.card.results.map((rule) => html`<tr><td>${rule.title}<br><small>${rule.evidence.join(', ')}</small></td><td>${rule.shown}</td><td class="n">${rule.points} of ${rule.maxPoints}</td></tr>`)}</tbody></table>` : null}
<h2>Anchor texts</h2>${evidence(store, row, 'anchors', now)}<h3>Addresses that were linked</h3>${evidence(store, row, 'addresses', now)}
<h2>History</h2>${facts([
    ['First seen', dossier.firstSeenAt === null ? null : day(dossier.firstSeenAt, 0)],
    ['Last seen', dossier.lastSeenAt === null ? null : day(dossier.lastSeenAt, 0)],
    ['Captures', dossier.captures],
    ['Years with content', past?.contentYears],
    ['Topic change', past?.drift?.toFixed(2)],
    ['Subject', dossier.subject],
    ['Language', dossier.language === null ? null : languageName(dossier.language)],
    ['Asked', dossier.pastAt === null ? null : `${dossier.pastSource}, ${moment(dossier.pastAt, 0)}`],
  ])}
<h3>Life, span by span</h3><table><tbody>${life.spans.map((span) => html`<tr><td>${span.lane}</td><td>${day(span.from, 0)}</td><td>${span.to === span.from ? '' : day(span.to, 0)}</td><td>${span.label}</td><td><small>${span.detail}</small></td></tr>`)}</tbody></table>
<h3>Captures that were read</h3>${evidence(store, row, 'captures', now)}
<h2>Registration data</h2>${facts([
    ['Phase', dossier.phase],
    ['Because', dossier.phaseReason],
    ['Asked', phaseOrigin(dossier, now)],
    ['Registered', record.registeredAt ? day(record.registeredAt, 0) : null],
    ['Expires', record.expiresAt ? day(record.expiresAt, 0) : null],
    ['Registrar', record.registrar],
    ['Status', record.statuses.join(', ')],
    ['Name servers', record.nameServers.join(', ')],
    ['Expected drop', dossier.window ? `${moment(dossier.window.from, 0)} to ${moment(dossier.window.to, 0)}: ${dossier.window.reasons.join('; ')}` : null],
  ])}
<h2>Trademarks</h2>${dossier.marksFound.matches.length === 0 ? html`<p>${dossier.marksFound.at === null ? 'No register was asked.' : 'None is like it.'}</p>` : html`<table><tbody>${dossier.marksFound.matches.map((match) => html`<tr><td><bdi>${match.mark}</bdi><br><small>${match.owner}; ${match.register}, ${match.number}</small></td><td>${match.why}</td><td>${match.status}</td></tr>`)}</tbody></table>`}
<h2>Listings</h2>${listings.length === 0 ? html`<p>No venue offers it, as far as is known.</p>` : facts(listings.map((one) => [one.venue ?? 'a venue', `${listingWords({ listing: one.kind, bids: one.bids })}, ${money(one.priceMinor, one.currency) || 'price on request'}${one.isOpen ? '' : ', closed'}`] as const))}
<h2>Checks</h2>${evidence(store, row, 'checks', now)}
<h2>Notes</h2>${notes.length === 0 ? html`<p><small>none</small></p>` : notes.map((note) => html`<p><small>${moment(note.at, 0)}</small><br><bdi>${note.text}</bdi></p>`)}
<h2>Who said what</h2>${evidence(store, row, 'history', now)}`;
  return html`<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'"><title>${dossier.display}</title><style>${new Html(STYLE)}</style></head><body>${body}</body></html>`
    .text;
} // biome-ignore format: a line of the file each
