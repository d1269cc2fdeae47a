import { hash, verify } from "@node-rs/argon2";

// OWASP Password Storage Cheat Sheet, argon2id: 19 MiB, two passes, one lane (from memory).
const OPTIONS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, OPTIONS);

/** Checks a password; without a hash it takes the same time and fails, so that a wrong name cannot be told from a wrong password. */
export const checkPassword = async (
  stored: string | undefined,
  password: string,
): Promise<boolean> => {
  const good = await verify(stored ?? (await decoy()), password);
  return stored !== undefined && good;
};

let decoyHash: Promise<string> | undefined;
const decoy = (): Promise<string> => (decoyHash ??= hashPassword("a password that nobody has"));
