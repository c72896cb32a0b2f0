import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { renewHeard } from "@/data/heard";
import { HeardChanges } from "./HeardChanges";
import { LiveLine } from "./LiveLine";

/** Listen to the brand's live stream, and read again what others' changes have made old. */
export function useLive(brand: string): void {
  const queries = useQueryClient();
  useEffect(() => {
    const heard = new HeardChanges((changes, listeners) => renewHeard(queries, brand, changes, listeners));
    const line = new LiveLine(brand, (message) => heard.hear(message));
    return () => {
      line.close();
      heard.close();
    };
  }, [brand, queries]);
}
