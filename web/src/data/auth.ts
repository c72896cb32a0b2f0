import { Problem, writeToken } from "@/api/client";

type Flow = { id: string; is_pending?: boolean };
type Body = {
  data?: { flows?: Flow[] } & Record<string, unknown>;
  errors?: { message: string; param?: string; code?: string }[];
};
export type Answer = { status: number; body: Body };

/** One call of the sign-in service. Throws only when there is no way through to it. */
export async function auth(method: string, path: string, body?: unknown): Promise<Answer> {
  let response: Response;
  try {
    response = await fetch(`/_allauth/browser/v1/${path}`, {
      method,
      headers: { "Content-Type": "application/json", "X-CSRFToken": await writeToken() },
      body: body ? JSON.stringify(body) : undefined,
    });
  } catch {
    throw new Problem(0, "Menudo can't be reached just now. Try again in a moment.");
  }
  return { status: response.status, body: await response.json().catch(() => ({})) };
}

/** Whether the answer asks for this step next. */
export function asks(answer: Answer, flow: string): boolean {
  return (
    answer.status === 401 && Boolean(answer.body.data?.flows?.some((f) => f.id === flow && f.is_pending !== false))
  );
}

/** An answer that went wrong, as a Problem with its faults at their fields. */
export function wrong(answer: Answer, words: string): Problem {
  const tooMany = answer.body.errors?.some((e) => e.code === "too_many_login_attempts");
  if (answer.status === 429 || tooMany) return new Problem(429, "Too many tries. Wait a few minutes, then try again.");
  const faults = (answer.body.errors ?? []).map((e) => ({
    pointer: `/${e.param ?? ""}`,
    detail: e.message,
    code: "invalid",
  }));
  return new Problem(answer.status, faults[0]?.detail ?? words, faults);
}
