import { call } from './api';

/** The whole address of a feed, as a program can ask for it that sends no cookie. */
export async function feedAddress(path: string): Promise<string> {
  const { key } = await call('GET /feeds/key');
  return `${window.location.origin}${path}${key === null ? '' : `?key=${key}`}`;
}
