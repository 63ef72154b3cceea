/** What this device keeps for the page. Storage can be switched off or full; nothing that only wants to remember may fail for it. */

/** Reads what is kept under a name; nothing where nothing is, or where the device keeps nothing at all. */
export function readDevice(name: string): string | undefined {
  try {
    return localStorage.getItem(name) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a text under a name, or takes it away. @returns whether the device did so */
export function writeDevice(name: string, text: string | undefined): boolean {
  try {
    if (text === undefined) localStorage.removeItem(name);
    else localStorage.setItem(name, text);
    return true;
  } catch {
    return false;
  }
}

/** Every name under which something is kept. */
export function namesOnDevice(): string[] {
  try {
    return Array.from({ length: localStorage.length }, (_, k) => localStorage.key(k)).filter((name) => name !== null);
  } catch {
    return [];
  }
}
