import { useQuery } from "@tanstack/react-query";
import { api, got, Problem, writeToken } from "@/api/client";

export function useMe() {
  return useQuery({ queryKey: ["me"], queryFn: () => got(api.GET("/api/me")), staleTime: 60_000 });
}

async function session(method: string, path: string, body?: unknown): Promise<Response> {
  try {
    return await fetch(`/_allauth/browser/v1/auth/${path}`, {
      method,
      headers: { "Content-Type": "application/json", "X-CSRFToken": await writeToken() },
      body: body ? JSON.stringify(body) : undefined,
    });
  } catch {
    throw new Problem(0, "Menudo can't be reached just now. Try again in a moment.");
  }
}

export async function signIn(email: string, password: string): Promise<void> {
  const answer = await session("POST", "login", { email, password });
  if (answer.ok) return;
  if (answer.status === 429) throw new Problem(429, "Too many tries. Wait a few minutes, then try again.");
  if (answer.status === 400) throw new Problem(400, "That address and password don't go together.");
  throw new Problem(answer.status, `Signing in failed (${answer.status}). Try again.`);
}

export async function signOut(): Promise<void> {
  await session("DELETE", "session");
}
