import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { z } from 'zod';
import { writeOwnFile } from './own-file';

const derive = promisify<string, Buffer, number, { N: number; r: number; p: number; maxmem: number }, Buffer>(scrypt);
/** RFC 7914; about a tenth of a second. */
const SCRYPT = { N: 32_768, r: 8, p: 1, maxmem: 64 * 2 ** 20 };
const HASH_BYTES = 32;

/** Shorter passwords are not taken. */
export const LEAST_PASSWORD = 10;
const MOST_PASSWORD = 1000;
export const PersonName = z.string().trim().min(1).max(60);

const People = z.object({ people: z.array(z.object({ name: PersonName, salt: z.base64(), hash: z.base64() })) });

const fileOf = (folder: string) => join(folder, 'people.json');

function readPeople(folder: string): z.infer<typeof People>['people'] {
  const path = fileOf(folder);
  if (!statSync(path, { throwIfNoEntry: false })) return [];
  const read = People.safeParse(JSON.parse(readFileSync(path, 'utf8')));
  if (!read.success) throw new Error(`${path} holds no people. Take it away, and set their passwords again.`);
  return read.data.people;
}

/** Who can sign in with a password. */
export function peopleOf(folder: string): string[] {
  return readPeople(folder).map(({ name }) => name);
}

/** Gives a person a password, in the place of the one before. @throws with a message for people when it is none. */
export async function setPassword(folder: string, name: string, password: string): Promise<void> {
  const read = PersonName.safeParse(name);
  if (!read.success) throw new Error('The name is empty, or longer than 60 characters.');
  if (password.length < LEAST_PASSWORD || password.length > MOST_PASSWORD)
    throw new Error(`A password has at least ${LEAST_PASSWORD} characters.`);
  const salt = randomBytes(16);
  const hash = await derive(password, salt, HASH_BYTES, SCRYPT);
  const others = readPeople(folder).filter((one) => one.name !== read.data);
  const person = { name: read.data, salt: salt.toString('base64'), hash: hash.toString('base64') };
  writeOwnFile(fileOf(folder), { people: [...others, person] });
}

/** Takes a person away. @returns whether there was one. */
export function removePerson(folder: string, name: string): boolean {
  const before = readPeople(folder);
  const left = before.filter((one) => one.name !== name);
  if (left.length < before.length) writeOwnFile(fileOf(folder), { people: left });
  return left.length < before.length;
}

/** Whether it is the person's password. A name that nobody has takes as long as one that is known. */
export async function isPassword(folder: string, name: string, password: string): Promise<boolean> {
  const person = readPeople(folder).find((one) => one.name === name);
  const salt = person ? Buffer.from(person.salt, 'base64') : Buffer.alloc(16);
  const given = await derive(password.slice(0, MOST_PASSWORD), salt, HASH_BYTES, SCRYPT);
  return person !== undefined && timingSafeEqual(given, Buffer.from(person.hash, 'base64'));
}
