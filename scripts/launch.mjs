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
    const { addressOf, portFromEnvironment, stopWithUs, Supervisor } = await import('./supervise.mjs');
    const port = portFromEnvironment();
    const folder = resolve(process.env.JAM_LADLE_DATA ?? (isDemo ? 'data/demo' : 'data/real'));
    supervisor = new Supervisor({ folder, port });
    stopWithUs(supervisor);
    await supervisor.hold();
    const person = process.argv.indexOf('--set-password');
    if (person >= 0) {
      const name = process.argv[person + 1] ?? '';
      await supervisor.setPassword(name, await askPassword(name));
      console.log(`${name} can sign in with this password.`);
      await supervisor.stop();
      return;
    }
    const leaving = process.argv.indexOf('--remove-person');
    if (leaving >= 0) {
      const name = process.argv[leaving + 1] ?? '';
      const wasThere = await supervisor.removePerson(name);
      console.log(wasThere ? `${name} can sign in no more.` : `Nobody is called ${name}.`);
      await supervisor.stop();
      return;
    }
    const reach = await supervisor.settleReach(isDemo);
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
    console.log(`Jam Ladle is ready at http://${addressOf(reach.listens)}:${port}${key}`);
    for (const origin of reach.origins) console.log(`With a password also at ${origin}`);
  } catch (error) {
    await supervisor?.stop();
    console.error(error.message);
    process.exit(1);
  }
}

/** Asks for a passphrase, twice where it is the first, which a slip would make an unknown one. */
const askPassphrase = (isFirst) => askSecret('Passphrase of the keys', isFirst, 'nothing is sealed');

const askPassword = (name) => askSecret(`Password of ${name}`, true, 'none is set');

/** Asks for what nobody may see: on a terminal what is typed is not shown. */
async function askSecret(what, isTwice, otherwise) {
  const nowhere = new Writable({ write: (_chunk, _encoding, done) => done() });
  const lines = createInterface({ input: process.stdin, output: nowhere, terminal: process.stdin.isTTY === true });
  const ask = async (words) => {
    process.stdout.write(words);
    const said = await lines.question('');
    process.stdout.write('\n');
    return said;
  };
  try {
    const secret = await ask(`${what}: `);
    if (secret === '') throw new Error(`${what}: nothing was typed.`);
    if (isTwice && (await ask('The same once more: ')) !== secret) throw new Error(`The two differ; ${otherwise}.`);
    return secret;
  } finally {
    lines.close();
  }
}
