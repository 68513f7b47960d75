import { existsSync, mkdirSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import pino, { type Logger } from 'pino';

const ROTATE_BYTES = 10 * 1024 * 1024;

/** A structured log in the data folder. One older file is kept. */
export function openLog(folder: string, name: string): Logger {
  const logs = join(folder, 'logs');
  mkdirSync(logs, { recursive: true });
  const path = join(logs, `${name}.log`);
  if (existsSync(path) && statSync(path).size > ROTATE_BYTES) renameSync(path, join(logs, `${name}.1.log`));
  const destination = pino.destination({ dest: path, sync: true, mkdir: true });
  // a line that finds no space is lost; the work it tells of goes on
  destination.on('error', () => undefined);
  return pino({ level: process.env.LOG_LEVEL ?? 'info' }, destination);
}
