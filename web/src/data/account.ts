import { queryOptions } from "@tanstack/react-query";
import { Problem } from "@/api/client";
import { type Answer, asks, auth, wrong } from "./auth";
import { ownKey } from "./keys";

export type Address = { email: string; verified: boolean; primary: boolean };
export type Session = {
  id: number;
  user_agent: string;
  ip: string;
  is_current: boolean;
  last_seen_at?: number;
  created_at: number;
};

export const accountQueries = {
  addresses: () =>
    queryOptions({ queryKey: ownKey("addresses"), queryFn: () => listed<Address>(auth("GET", "account/email")) }),
  sessions: () =>
    queryOptions({ queryKey: ownKey("sessions"), queryFn: () => listed<Session>(auth("GET", "auth/sessions")) }),
  /** Whether an authenticator's codes are asked for. */
  secondFactor: () =>
    queryOptions({
      queryKey: ownKey("factors"),
      queryFn: async () => {
        const all = await listed<{ type: string }>(auth("GET", "account/authenticators"));
        return all.some((one) => one.type === "totp");
      },
    }),
};

async function listed<One>(asked: Promise<Answer>): Promise<One[]> {
  const { data } = (await asked).body;
  return Array.isArray(data) ? (data as One[]) : [];
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
  if (answer.status !== 200) throw wrong(answer, "That code isn't right. Wait for the next one, and type it again.");
}

export async function signOut(): Promise<void> {
  await auth("DELETE", "auth/session");
}

/** Sign the other browsers out. */
export async function endSessions(sessions: Session[]): Promise<void> {
  await auth("DELETE", "auth/sessions", { sessions: sessions.map((session) => session.id) });
}

export async function changePassword(now: string, next: string): Promise<void> {
  const answer = await auth("POST", "account/password/change", { current_password: now, new_password: next });
  if (answer.status !== 200) throw wrong(answer, "The password could not be changed.");
}

/** Have a link sent to set a new password. Goes the same way whether there is such an account or not. */
export async function requestReset(email: string): Promise<void> {
  const answer = await auth("POST", "auth/password/request", { email });
  if (answer.status !== 200 && answer.status !== 401) throw wrong(answer, "That failed. Try again.");
}

export async function resetPassword(key: string, password: string): Promise<void> {
  const answer = await auth("POST", "auth/password/reset", { key, password });
  // 401: the password is changed, and one signs in with it.
  if (answer.status !== 200 && answer.status !== 401)
    throw wrong(answer, "This link has ended or was used. Ask for a new one.");
}

/** Confirm an address by the key that was mailed to it. */
export async function confirmAddress(key: string): Promise<void> {
  const answer = await auth("POST", "auth/email/verify", { key });
  // 401: the address is confirmed, and one signs in with it.
  if (answer.status === 200 || answer.status === 401) return;
  throw wrong({ ...answer, body: {} }, "This link has ended or was used. Ask for a new one at your account.");
}

/** Ask for another address, or take that back. */
export async function changeAddress(method: "POST" | "DELETE", email: string, words: string): Promise<void> {
  const answer = await auth(method, "account/email", { email });
  if (answer.status !== 200) throw wrong(answer, words);
}

export async function giveAgain(password: string): Promise<void> {
  const answer = await auth("POST", "auth/reauthenticate", { password });
  if (answer.status !== 200) throw wrong(answer, "That is not your password.");
}

/** What an authenticator is set up with; "password" when that is asked for again first. */
export async function offerSecondFactor(): Promise<{ secret: string; address: string } | "password"> {
  const answer = await auth("GET", "account/authenticators/totp");
  if (asks(answer, "reauthenticate")) return "password";
  const meta = (answer.body as { meta?: { secret?: string; totp_url?: string } }).meta;
  if (!meta?.secret || !meta.totp_url) throw wrong(answer, "The second factor can't be set up just now.");
  return { secret: meta.secret, address: meta.totp_url };
}

/** Switch it on with a first code: the recovery codes. */
export async function confirmSecondFactor(code: string): Promise<string[] | "password"> {
  const answer = await auth("POST", "account/authenticators/totp", { code: code.replace(/\s/g, "") });
  if (asks(answer, "reauthenticate")) return "password";
  if (answer.status !== 200) throw wrong(answer, "That code isn't right. Wait for the next one.");
  const { data } = (await auth("GET", "account/authenticators/recovery-codes")).body;
  return (data as { unused_codes?: string[] } | undefined)?.unused_codes ?? [];
}

export async function removeSecondFactor(): Promise<"off" | "password"> {
  const answer = await auth("DELETE", "account/authenticators/totp");
  if (asks(answer, "reauthenticate")) return "password";
  if (answer.status !== 200) throw wrong(answer, "It could not be switched off.");
  return "off";
}
