import { useQuery } from "@tanstack/react-query";
import { profileQueries } from "@/data/profiles";

/** What came of a trip to a network, by its name in the address: nothing for one that this browser didn't make. */
export function useConnectOutcome(outcome: string | undefined): { refused: string; left: string[] } {
  const found = useQuery({ ...profileQueries.connectOutcome(outcome ?? ""), enabled: outcome !== undefined });
  return { refused: found.data?.refused ?? "", left: found.data?.left ?? [] };
}
