export type Scheme = "system" | "light" | "dark";
const KEY = "menudo-scheme";

export function chosenScheme(): Scheme {
  const kept = localStorage.getItem(KEY);
  return kept === "light" || kept === "dark" ? kept : "system";
}

/** Light or dark, as chosen; else as the system has it, and following it. */
export function applyScheme(scheme: Scheme = chosenScheme()): void {
  if (scheme === "system") localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, scheme);
  const dark = scheme === "dark" || (scheme === "system" && matchMedia("(prefers-color-scheme: dark)").matches);
  document.documentElement.classList.toggle("dark", dark);
  document.documentElement.classList.toggle("light", !dark);
}

matchMedia("(prefers-color-scheme: dark)").addEventListener("change", () => applyScheme());
