import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { ANYTHING, type Change, renewHeard } from "@/data/changes";
import { LiveLine } from "./LiveLine";

const GATHER_MS = 120;

/** Listen to the brand's live stream, and read again what others' changes have made old. */
export function useLive(brand: string): void {
  const queries = useQueryClient();
  useEffect(() => {
    let changes: Change[] = [];
    let timer: number | undefined;
    const flush = () => {
      timer = undefined;
      renewHeard(queries, brand, changes);
      changes = [];
    };
    const line = new LiveLine(brand, (message) => {
      changes.push(...(message === "broken" ? ANYTHING : [message]));
      timer ??= window.setTimeout(flush, GATHER_MS);
    });
    return () => {
      line.close();
      window.clearTimeout(timer);
    };
  }, [brand, queries]);
}
