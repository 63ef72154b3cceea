import { RateLimiterMemory, RateLimiterRes } from "rate-limiter-flexible";

/** Wrong passwords that are taken in a quarter of an hour: for one name, and from one address. */
const SECONDS = 900;
const byName = new RateLimiterMemory({ points: 10, duration: SECONDS });
const byAddress = new RateLimiterMemory({ points: 40, duration: SECONDS });

interface Tries {
  /** Minutes until another try is taken; 0 where this one is. */
  waitMinutes: number;
  /** Forgets the tries of a name that has signed in. */
  forget: () => Promise<unknown>;
}

/** Counts a try to sign in, by name and by address, so that neither can be guessed at for long. */
export async function triesLeft(name: string, address: string): Promise<Tries> {
  const key = name.toLowerCase();
  const forget = () => byName.delete(key);
  try {
    await Promise.all([byName.consume(key), byAddress.consume(address)]);
    return { waitMinutes: 0, forget };
  } catch (left) {
    if (!(left instanceof RateLimiterRes)) throw left;
    return { waitMinutes: Math.max(1, Math.ceil(left.msBeforeNext / 60_000)), forget };
  }
}
