import { statfsSync } from 'node:fs';
import { Refusal } from '../../core/refusal';
import { RESTORE_ADVICE } from './damage';
import { isFull } from './database';

/** What stays free on the disk of the data folder: with less, nothing large is taken. */
export const LEAST_ROOM_BYTES = 8 * 2 ** 20;

/** Bytes that are free on the disk of a folder; null where it cannot be told. */
export function freeBytes(folder: string): number | null {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  } catch {
    return null;
  }
}

/** An error of the database in words, where it is one of a full disk or of damage; any other as it is. */
export function toldByStore(error: unknown): unknown {
  if (isFull(error))
    return new Refusal('full', 'The disk is full; nothing was changed.', {
      advice: 'Make room, then do it again.',
      cause: error,
    });
  if (/^SQLITE_(CORRUPT|NOTADB)/.test((error as { code?: string }).code ?? ''))
    return new Refusal('damaged', 'The database is damaged.', { advice: RESTORE_ADVICE, cause: error });
  return error;
}
