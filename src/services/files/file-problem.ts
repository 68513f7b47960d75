import { Refusal } from '../../core/refusal';

/** What keeps a file from being read, in a sentence for people. */
export class FileProblem extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('makes-no-sense', message, options);
  }
}
