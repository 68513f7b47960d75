const ASKED = 'jam-ladle:order';

/** Opens the order of a domain, from any screen. */
export function openOrder(name: string): void {
  window.dispatchEvent(new CustomEvent(ASKED, { detail: name }));
}

/** @returns how to stop listening. */
export function onOrderAsked(listener: (name: string) => void): () => void {
  const onAsked = (event: Event) => listener((event as CustomEvent<string>).detail);
  window.addEventListener(ASKED, onAsked);
  return () => window.removeEventListener(ASKED, onAsked);
}
