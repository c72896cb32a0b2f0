import { useState } from "react";
import { Problem } from "@/api/client";

/** Sending a form: busy while it goes, and what came back wrong, each fault at its field. */
export function useForm() {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);

  /** Run it; true when it went through. */
  async function send(act: () => Promise<unknown>): Promise<boolean> {
    setBusy(true);
    setProblem(null);
    try {
      await act();
      return true;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setProblem(error);
      return false;
    } finally {
      setBusy(false);
    }
  }
  /** The fault at a field. */
  const at = (pointer: string) => problem?.at(pointer);
  /** The words that belong to no field of the form. */
  const loose = (...fields: string[]) =>
    problem && !fields.some((field) => problem.faults.some((f) => f.pointer.startsWith(field))) ? problem.message : "";
  return { busy, problem, send, at, loose };
}
