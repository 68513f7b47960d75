#!/usr/bin/env node
// `jam-ladle`: the product as an installed package, in real mode.
import { readFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { launch } from './launch.mjs';
import { ROOT } from './prepare.mjs';

const HELP = `jam-ladle [--data DIR] [--port N] [--passphrase] [--restore]
jam-ladle --set-password NAME | --remove-person NAME

  --data DIR     where everything is kept; else JAM_LADLE_DATA, else jam-ladle in XDG_DATA_HOME or ~/.local/share
  --port N       of 127.0.0.1; else PORT, else 4310
  --passphrase   asks for the passphrase that the keys of accounts are sealed by
  --set-password NAME  asks for the password by which NAME signs in, and ends
  --remove-person NAME  takes NAME's password away, and ends
  --restore      puts the newest copy that is whole in the place of what is there
  --version, --help
`;

function optionsOf(args) {
  try {
    return parseArgs({
      args,
      options: {
        data: { type: 'string' },
        port: { type: 'string' },
        passphrase: { type: 'boolean' },
        'set-password': { type: 'string' },
        'remove-person': { type: 'string' },
        restore: { type: 'boolean' },
        version: { type: 'boolean' },
        help: { type: 'boolean' },
      },
    }).values;
  } catch (error) {
    console.error(`${error.message}\n\n${HELP}`);
    return process.exit(2);
  }
}

const { data, port, version, help } = optionsOf(process.argv.slice(2));
if (help) console.log(HELP);
else if (version) console.log(JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8')).version);
else {
  const shares = process.env.XDG_DATA_HOME || join(homedir(), '.local/share');
  process.env.JAM_LADLE_DATA = data ?? process.env.JAM_LADLE_DATA ?? join(shares, 'jam-ladle');
  if (port !== undefined) process.env.PORT = port;
  await launch({ isDemo: false, start: 'jam-ladle' });
}
