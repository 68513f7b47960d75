import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { BACKUPS, DAILY } from '../jobs/backup';
import type { JobRunner } from '../runner/runner';

const DAY_MS = 86_400_000;
/** How often it is looked whether one is due. */
const LOOK_MS = 60_000;

/** Has the data folder copied once a day, by the machine's own time: what is lost with a disk is lost on every clock. */
export class DailyCopies {
  private lookAt = 0;

  constructor(
    private readonly store: Store,
    private readonly runner: Pick<JobRunner, 'addOnce' | 'isBusyWith'>,
  ) {}

  /** One turn of the clock. */
  turn(now = Date.now()): void {
    if (performance.now() < this.lookAt) return;
    this.lookAt = performance.now() + LOOK_MS;
    if (readSettings(this.store).copiesKept === 0 || this.runner.isBusyWith('backup')) return;
    // a clock that went back must not put the next one off for as long
    if (Math.abs(now - lastCopyAt(this.store.folder)) >= DAY_MS)
      this.runner.addOnce({ kind: 'backup', sourceId: null, params: { isDaily: true } });
  }
}

/** When the last copy of a day was made; before the first, when the folder was. ms since 1970 UTC. */
function lastCopyAt(folder: string): number {
  const path = join(folder, BACKUPS);
  const last = existsSync(path)
    ? readdirSync(path)
        .filter((name) => name.endsWith(DAILY))
        .sort()
        .at(-1)
    : undefined;
  if (!last) return statSync(join(folder, 'jam-ladle.sqlite')).birthtimeMs;
  const [day, hour, minute, second] = [last.slice(0, 10), last.slice(11, 13), last.slice(14, 16), last.slice(17, 19)];
  return Date.parse(`${day}T${hour}:${minute}:${second}Z`);
}
