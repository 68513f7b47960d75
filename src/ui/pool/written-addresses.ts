/**
 * The address that a screen wrote by itself. The router tells of each later, on a busy machine after the next ones were written: hearing of
 * it is no wish for another view.
 */
export class WrittenAddresses {
  private last: string | null = null;

  write(address: string): void {
    this.last = address;
  }

  /**
   * Whether what the router tells is no wish: it is of a time before the address that the browser is at now, or that address was written here.
   *
   * @param here the address that the browser is at.
   */
  isEcho(told: string, here: string): boolean {
    if (told !== here || told === this.last) return true;
    // somebody went there: the one that was written before may be gone to again
    this.last = null;
    return false;
  }
}
