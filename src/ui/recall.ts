/** What a screen remembers for when it is come back to, as long as the tab is open. */
export function remember(key: string, value: unknown): void {
  try {
    sessionStorage.setItem(key, JSON.stringify(value));
  } catch {
    // no room, or not allowed: then it begins at the top
  }
}

/** @param isOne tells whether what was remembered is what is wanted. @returns null: nothing of the kind was. */
export function recall<T>(key: string, isOne: (value: unknown) => value is T): T | null {
  try {
    const value: unknown = JSON.parse(sessionStorage.getItem(key) ?? 'null');
    return isOne(value) ? value : null;
  } catch {
    return null;
  }
}

export function forget(key: string): void {
  try {
    sessionStorage.removeItem(key);
  } catch {
    // nothing was remembered either
  }
}
