export type NetErrorCode =
  | 'name-not-found'
  /** No server of DNS says whether there is such a name. */
  | 'name-unsure'
  | 'private-address'
  /** A port that another protocol has. */
  | 'wrong-port'
  | 'refused'
  | 'timeout'
  | 'too-large'
  | 'headers-too-large'
  | 'bad-encoding'
  | 'bad-answer'
  | 'connection'
  | 'stopped';

/** Why an exchange with an outside server failed; `message` is for people. */
export class NetError extends Error {
  constructor(
    readonly code: NetErrorCode,
    message: string,
    options?: ErrorOptions,
  ) {
    super(message, options);
    this.name = 'NetError';
  }
}
