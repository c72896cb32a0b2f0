import { useQuery } from "@tanstack/react-query";
import { api, Problem, unwrap } from "@/api/client";
import { asks, auth, wrong } from "./auth";

export function useMe() {
  return useQuery({ queryKey: ["me"], queryFn: () => unwrap(api.GET("/api/me")), staleTime: 60_000 });
}

/** What there is to know before one is in: whether mail goes out from here, and whether anybody has an account. */
export function usePublicStatus() {
  return useQuery({
    queryKey: ["public-status"],
    queryFn: () => unwrap(api.GET("/api/public-status")),
    staleTime: 60_000,
  });
}

export function usePeople(brand: string) {
  return useQuery({
    queryKey: ["people", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/people", { params: { path: { brand } } })),
  });
}

/** Sign in; "code" when a second factor is asked for next. */
export async function signIn(email: string, password: string): Promise<"in" | "code"> {
  const answer = await auth("POST", "auth/login", { email, password });
  if (answer.status === 200) return "in";
  if (asks(answer, "mfa_authenticate")) return "code";
  if (answer.body.errors?.some((e) => e.code === "email_password_mismatch"))
    throw new Problem(400, "That address and password don't go together.");
  throw wrong(answer, `Signing in failed (${answer.status}). Try again.`);
}

/** The second factor: a code of the authenticator's, or a recovery code. */
export async function giveCode(code: string): Promise<void> {
  const answer = await auth("POST", "auth/2fa/authenticate", { code: code.replace(/\s/g, "") });
  if (answer.status === 200) return;
  throw wrong(answer, "That code isn't right. Wait for the next one, and type it again.");
}

export async function signOut(): Promise<void> {
  await auth("DELETE", "auth/session");
}
