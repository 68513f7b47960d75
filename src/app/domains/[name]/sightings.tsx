import { z } from 'zod';
import { count, day, moment, money } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import Link from '../../../ui/link';
import { Section } from './section';

/** Which sources named it, and what each said. */
export function Sightings({ dossier, now }: { dossier: Dossier; now: number }) {
  return (
    <Section id="sightings" title="Who named it">
      {dossier.sightings.length === 0 && <p>Known only as a site that links to others.</p>}
      {dossier.sightings.map((sighting) => (
        <div key={sighting.sourceId} className="border-t border-rule py-1">
          <Link className="hover:underline" href={`/sources/${sighting.sourceId}`}>
            {sighting.sourceName}
          </Link>{' '}
          <span className="small">
            {moment(sighting.at, now)}
            {sighting.line !== null && `, line ${count(sighting.line)}`}
          </span>
          <Said said={sighting.said} now={now} />
        </div>
      ))}
    </Section>
  );
}

/** What a source said: of a crawl, the words around the link on the page where it was found; else its own figures. */
function Said({ said, now }: { said: Record<string, unknown>; now: number }) {
  if (typeof said.url !== 'string' || typeof said.anchor !== 'string')
    return <span className="small block break-words">{saidWords(said, now)}</span>;
  return (
    <span className="small block break-words">
      on {said.url.replace(/^https?:\/\//, '')}: <bdi>{String(said.before ?? '')}</bdi>{' '}
      <bdi className="font-semibold text-ink">{said.anchor || 'no words'}</bdi> <bdi>{String(said.after ?? '')}</bdi>
    </span>
  );
}

const Score = z.object({ name: z.string(), value: z.number(), of: z.number().nullable() });
function scoreWords(given: unknown): string {
  const score = Score.safeParse(given);
  if (!score.success) return String(given);
  const { name, value, of } = score.data;
  return `${name} ${value}${of === null ? '' : ` of ${of}`}`;
}

/** A source's own figures. */
function saidWords(said: Record<string, unknown>, now: number): string {
  return Object.entries(said)
    .filter(([key, value]) => value !== null && !['site', 'depth', 'domain'].includes(key))
    .map(([key, value]) => {
      const label = key.replace(/([A-Z])/g, ' $1').toLowerCase();
      if (key.endsWith('At') && typeof value === 'number') return `${label.replace(/ at$/, '')} ${day(value, now)}`;
      if (Array.isArray(value)) return value.map(scoreWords).join(', ');
      if (key.endsWith('Minor') && typeof value === 'number')
        return `${label.replace(/ minor$/, '')} ${money(value, null)}`;
      return `${label} ${String(value)}`;
    })
    .join('; ');
}
