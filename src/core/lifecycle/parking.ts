/** Words in the names of servers that hold parked names, as whole labels or at a hyphen. */
const PARKING = /(^|[.-])(park|parking|parked|forsale|for-sale)\d*([.-]|$)/;

/** Whether a name server belongs to a parking service, by its name. */
export function isParkingServer(server: string): boolean {
  return PARKING.test(server.toLowerCase());
}
