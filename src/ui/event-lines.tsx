import { ago } from '../core/wording/format';
import { DomainLink } from './link';

/** What happened to names, one a line, the latest first. */
export function EventLines({
  events,
  now,
}: {
  events: { id: number; name: string; kind: string; words: string; at: number }[];
  now: number;
}) {
  return events.map((event) => (
    <p key={event.id} className="border-t border-rule py-1.5" data-event={event.kind}>
      <DomainLink name={event.name} /> {event.words}{' '}
      <span className="small whitespace-nowrap">seen {ago(event.at, now)}</span>
    </p>
  ));
}
