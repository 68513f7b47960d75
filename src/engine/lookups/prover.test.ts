import { beforeEach, describe, expect, it } from 'vitest';
import { freshBudget } from '../../core/lifecycle/pace';
import { Proofs } from './proofs';
import { Prover } from './prover';

const SERVER = 'https://rdap.registry.test/';
const HOST = 'rdap.registry.test';
let asked: string[];
let delegated: Set<string>;
let known: Set<string>;
let notes: string[];
let proofs: Proofs;
let prover: Prover;
let pause: Promise<void>;
let isLeftAlone: boolean;

beforeEach(() => {
  asked = [];
  notes = [];
  delegated = new Set();
  known = new Set();
  pause = Promise.resolve();
  isLeftAlone = false;
  const budget = freshBudget({ intervalMs: 1 });
  proofs = new Proofs(
    () => budget,
    () => undefined,
  );
  const clients = {
    dns: {
      delegation: async (name: string) => ({ outcome: delegated.has(name) ? 'delegated' : 'nxdomain' }),
    },
    rdap: {
      domain: async (_: string, name: string) => {
        asked.push(name);
        await pause;
        return { outcome: known.has(name) ? 'found' : 'not-found' };
      },
    },
  };
  const budgets = { note: (key: string) => notes.push(key) > 0, isLeftAlone: () => isLeftAlone };
  prover = new Prover(() => clients as never, proofs, budgets as never);
});

describe('a server is tried by a name that exists', () => {
  it('the registry’s own first, and believed once it finds it', async () => {
    for (const name of ['nic.org', 'example.org']) delegated.add(name);
    known.add('nic.org');
    expect(await prover.prove(SERVER, 'org')).toBe(true);
    expect(asked).toEqual(['nic.org']);
    expect(proofs.of(HOST, 'org', Date.now())).toMatchObject({ name: 'nic.org' });
    expect(notes).toEqual([HOST]);
    // it has shown it
    expect(await prover.prove(SERVER, 'org')).toBe(false);
    expect(asked).toHaveLength(1);
  });

  it('else one that DNS has delegated, which is known to exist', async () => {
    prover.exists('tarnhives.org', 'org');
    delegated.add('tarnhives.org');
    known.add('tarnhives.org');
    await prover.prove(SERVER, 'org');
    expect(asked).toEqual(['tarnhives.org']);
  });

  it('and is not believed where it denies one, which is said', async () => {
    delegated.add('nic.org');
    await prover.prove(SERVER, 'org');
    expect(proofs.of(HOST, 'org', Date.now())).toBeNull();
    expect(proofs.whyNot(HOST, 'org')).toContain('says so of nic.org, too, which exists');
    // the next name is tried in its own turn
    delegated.add('example.org');
    known.add('example.org');
    await prover.prove(SERVER, 'org');
    expect(proofs.of(HOST, 'org', Date.now())).toMatchObject({ name: 'example.org' });
  });

  it('and left alone where it has said so to somebody else meanwhile', async () => {
    delegated.add('nic.org');
    isLeftAlone = true;
    // the turn is used up: nothing else is asked in it either
    expect(await prover.prove(SERVER, 'org')).toBe(true);
    expect([asked, notes]).toEqual([[], []]);
    isLeftAlone = false;
    known.add('nic.org');
    await prover.prove(SERVER, 'org');
    expect(asked).toEqual(['nic.org']);
  });

  it('in vain where none is known', async () => {
    expect(await prover.prove(SERVER, 'org')).toBe(false);
    expect(asked).toEqual([]);
    expect(proofs.whyNot(HOST, 'org')).toContain('no name is known that exists under .org');
  });

  it('once, however many wait for it', async () => {
    delegated.add('nic.org');
    known.add('nic.org');
    let go: () => void = () => undefined;
    pause = new Promise((done) => {
      go = done;
    });
    const all = [1, 2, 3].map(() => prover.prove(SERVER, 'org'));
    go();
    expect(await Promise.all(all)).toEqual([true, true, true]);
    expect(asked).toEqual(['nic.org']);
  });
});
