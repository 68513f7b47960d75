import { prepareStates } from './states';

/** Makes the data folders that the files begin with, where this build has none yet. */
export default async function start(): Promise<void> {
  await prepareStates((words) => process.stdout.write(`${words}\n`));
}
