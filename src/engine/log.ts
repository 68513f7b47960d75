import { mkdirSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import pino, { type Logger } from 'pino';

const ROTATE_BYTES = 10 * 1024 * 1024;
const LOOK_MS = 30_000;

/**
 * A structured log in the data folder. One older file is kept: a log that has grown makes room, at a start and while it is written.
 *
 * @param lookMs how often it is looked how large it is.
 */
export function openLog(folder: string, name: string, { lookMs = LOOK_MS, mostBytes = ROTATE_BYTES } = {}): Logger {
  const logs = join(folder, 'logs');
  mkdirSync(logs, { recursive: true });
  const path = join(logs, `${name}.log`);
  const makeRoom = () => {
    if ((statSync(path, { throwIfNoEntry: false })?.size ?? 0) <= mostBytes) return false;
    renameSync(path, join(logs, `${name}.1.log`));
    return true;
  };
  makeRoom();
  const destination = pino.destination({ dest: path, sync: true, mkdir: true });
  // a line that finds no space is lost; the work it tells of goes on
  destination.on('error', () => undefined);
  setInterval(() => {
    if (makeRoom()) destination.reopen();
  }, lookMs).unref();
  return pino({ level: process.env.LOG_LEVEL ?? 'info' }, destination);
}
