import { hash, verify } from '@node-rs/argon2';

/** Algorithm 2 is argon2id; 32 MiB and 3 passes, half the memory of RFC 9106's second recommendation, for small machines. */
const options = { algorithm: 2, memoryCost: 32_768, timeCost: 3, parallelism: 1 };

export function hashPassword(password: string): Promise<string> {
  return hash(password, options);
}

let decoy: Promise<string> | null = null;

/** Takes as long for an unknown login as for a known one. */
export async function passwordMatches(stored: string | null, typed: string): Promise<boolean> {
  decoy ??= hashPassword('nobody has this password');
  const matches = await verify(stored ?? (await decoy), typed);
  return stored !== null && matches;
}
