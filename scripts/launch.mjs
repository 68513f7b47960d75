// Installs and builds what is missing, starts the product (in the demo with its world), and stops it with us.

import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { Writable } from 'node:stream';
import { build, install, ROOT } from './prepare.mjs';

/**
 * Ends the process with 1, and a message, when something is wrong.
 *
 * @param isDemo whether the made-up world runs beside it.
 * @param start what starts it, as a person writes it.
 */
export async function launch({ isDemo, start = 'npm start --' }) {
  let supervisor;
  try {
    // a package is installed and built by whoever made and installed it
    if (existsSync(join(ROOT, 'src'))) {
      install();
      build();
    }
    const { portFromEnvironment, stopWithUs, Supervisor } = await import('./supervise.mjs');
    const port = portFromEnvironment();
    const folder = resolve(process.env.JAM_LADLE_DATA ?? (isDemo ? 'data/demo' : 'data/real'));
    supervisor = new Supervisor({ folder, port });
    stopWithUs(supervisor);
    await supervisor.hold();
    if (process.argv.includes('--restore')) {
      const { name, aside } = await supervisor.restoreNewest();
      console.log(`The copy ${name} is in place; what was there is kept as ${aside}.`);
    }
    if (process.argv.includes('--passphrase'))
      process.env.JAM_LADLE_PASSPHRASE = await askPassphrase(!(await supervisor.areKeysClosed()));
    if (await supervisor.areKeysClosed())
      console.log(
        `The keys of accounts are sealed: nothing is sent to venues and mail servers until you start with their passphrase (${start} --passphrase).`,
      );
    if (isDemo) await supervisor.startWorld();
    await supervisor.startProduct();
    if (isDemo && process.env.JAM_LADLE_FIRST_STEPS !== '0') {
      const { takeFirstSteps } = await import('./first-steps.mjs');
      await takeFirstSteps({ port, folder, log: console.log });
    }
    const key = isDemo ? '' : `/?key=${await supervisor.key()}`;
    console.log(`Jam Ladle is ready at http://127.0.0.1:${port}${key}`);
  } catch (error) {
    await supervisor?.stop();
    console.error(error.message);
    process.exit(1);
  }
}

/** Asks for a passphrase; on a terminal what is typed is not shown. Read twice where it is the first, which a slip would make an unknown one. */
async function askPassphrase(isFirst) {
  const nowhere = new Writable({ write: (_chunk, _encoding, done) => done() });
  const lines = createInterface({ input: process.stdin, output: nowhere, terminal: process.stdin.isTTY === true });
  const ask = async (words) => {
    process.stdout.write(words);
    const said = await lines.question('');
    process.stdout.write('\n');
    return said;
  };
  try {
    const passphrase = await ask('Passphrase of the keys: ');
    if (passphrase === '') throw new Error('The passphrase is empty.');
    if (isFirst && (await ask('The same once more: ')) !== passphrase)
      throw new Error('The two differ; nothing is sealed.');
    return passphrase;
  } finally {
    lines.close();
  }
}
