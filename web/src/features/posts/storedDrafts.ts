/** What could not be saved at the server stays in the browser, until it can: by brand and post. It is one person's. */

const PREFIX = "menudo-bench:";
const OWNER = "menudo-person";

export const draftKey = (brand: string, id: number | null) => `${PREFIX}${brand}:${id ?? "new"}`;

const kept = () => Object.keys(localStorage).filter((key) => key.startsWith(PREFIX));

export const countStoredDrafts = () => kept().length;

/** Take them out of this browser. */
export function forgetDrafts(): void {
  for (const key of kept()) localStorage.removeItem(key);
  localStorage.removeItem(OWNER);
}

/** Whoever is signed in: what somebody else left here isn't theirs to see. */
export function claimDrafts(person: number): void {
  const owner = localStorage.getItem(OWNER);
  if (owner !== null && owner !== String(person)) forgetDrafts();
  localStorage.setItem(OWNER, String(person));
}
