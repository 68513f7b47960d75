import { z } from 'zod';
import { registrableDomain } from '../../core/names/domain';
import { ParkingServers, type ZoneChange, ZonePair } from '../../core/zones/zone-pair';
import { ZoneReader } from '../../core/zones/zone-reader';
import type { Reject } from '../../store/sources/sources';
import { byteChunks } from '../files/text-file';
import { isExcluded } from '../lists/read-list';
import { type JobContext, JobError, RateMeter, throwIfStopped } from '../runner/context';
import { writeFound } from './found';

export const ZonesParams = z.object({
  older: z.string(),
  newer: z.string(),
  /** What relative names belong to until the file says so itself. */
  origin: z.string().default(''),
  /** Domains of parking servers. */
  parking: z.array(z.string()).default([]),
  excludedEndings: z.array(z.string()).default([]),
});

/** What a comparison found, before it is written. */
interface Found {
  changes: { name: string; ending: string; change: ZoneChange }[];
  rejects: Reject[];
  records: number;
  excluded: number;
}

/**
 * Compares two copies of a zone: names that are gone from the newer, and names that moved to parking servers, go to the pool. The
 * comparison is made anew after an interruption, the same each time; what is written then goes on where it was.
 * rows read = taken + repeated (unchanged records) + excluded + set aside.
 */
export async function runZones(context: JobContext): Promise<void> {
  const { job } = context;
  const params = ZonesParams.parse(job.params);
  const sourceId = job.sourceId;
  if (sourceId === null) throw new JobError('The comparison lost its source.');
  const found = await compareZones(context, params);
  const { changes, records, excluded, rejects } = found;
  const counts = {
    rows_read: records,
    rows_taken: changes.length,
    rows_excluded: excluded,
    rows_set_aside: rejects.length,
    rows_repeated: records - changes.length - excluded - rejects.length,
  };
  const domains = changes.map(({ name, ending, change }) => ({ name, ending, said: { change } }));
  await writeFound(context, sourceId, { domains, counts, rejects }, 'writing what changed');
  const gone = found.changes.filter(({ change }) => change === 'gone').length;
  const message = `${gone.toLocaleString('en')} names are gone, ${(found.changes.length - gone).toLocaleString('en')} moved to parking servers`;
  context.progress({ done: found.records, total: found.records, unit: 'records', rate: 0, message });
}

/** Reads the newer copy, then the older past it. @throws JobError on a file that holds no delegation. */
export async function compareZones(
  context: Pick<JobContext, 'signal' | 'progress'>,
  params: z.infer<typeof ZonesParams>,
): Promise<Found> {
  const pair = new ZonePair();
  const parking = new ParkingServers(params.parking);
  const excluded = new Set(params.excludedEndings);
  const found: Found = { changes: [], rejects: [], records: 0, excluded: 0 };
  const meter = new RateMeter();
  const read = async (path: string, what: string, isOlder: boolean): Promise<void> => {
    let delegations = 0;
    const reader = new ZoneReader(
      {
        delegation(owner, length, target, targetLength) {
          delegations++;
          found.records++;
          const isParking = parking.has(target, targetLength);
          if (!isOlder) return pair.addNewer(owner, length, isParking);
          const change = pair.askOlder(owner, length, isParking);
          if (change) note(owner, length, change);
        },
        other() {
          found.records++;
        },
        problem({ line, reason, sample }) {
          found.records++;
          // lines of the two files share one list: the newer's are negative
          found.rejects.push({ line: isOlder ? line : -line, reason: `${reason} (${what} copy)`, sample });
        },
      },
      params.origin,
    );
    for await (const chunk of byteChunks(path)) {
      throwIfStopped(context.signal);
      reader.write(chunk);
      const { records } = found;
      context.progress({
        done: records,
        total: null,
        unit: 'records',
        rate: meter.rate(records),
        message: `reading the ${what} copy`,
      });
    }
    reader.end();
    if (delegations === 0) throw new JobError(`The ${what} copy holds no delegation (NS record): it is no zone file.`);
  };
  const note = (owner: Uint8Array, length: number, change: ZoneChange) => {
    const domain = registrableDomain(Buffer.from(owner.subarray(0, length)).toString('latin1'));
    if (!domain || domain.name.length !== length) return; // a delegation inside a domain, or the zone itself
    if (isExcluded(domain.ending, excluded)) found.excluded++;
    else found.changes.push({ ...domain, change });
  };
  await read(params.newer, 'newer', false);
  await read(params.older, 'older', true);
  return found;
}
