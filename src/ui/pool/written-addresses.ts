/**
 * Addresses that a screen wrote by itself. The router tells of each later, on a busy machine after the next one was written: hearing of
 * it is no wish for another view.
 */
export class WrittenAddresses {
  private notYetHeard: string[] = [];

  write(address: string): void {
    this.notYetHeard.push(address);
  }

  /** Whether it was written here; those before it are not told of any more. The last one may be told of again. */
  isEcho(address: string): boolean {
    const at = this.notYetHeard.lastIndexOf(address);
    if (at < 0) return false;
    this.notYetHeard = this.notYetHeard.slice(at);
    return true;
  }
}
