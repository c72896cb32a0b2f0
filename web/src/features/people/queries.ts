import { useQuery } from "@tanstack/react-query";
import { installationQueries } from "@/data/installation";
import { peopleQueries } from "@/data/people";

export function useMe() {
  return useQuery(peopleQueries.me());
}

/** What there is to know before one is in: whether mail goes out from here, and whether anybody has an account. */
export function usePublicStatus() {
  return useQuery(installationQueries.publicStatus());
}

export function usePeople(brand: string, enabled = true) {
  return useQuery({ ...peopleQueries.list(brand), enabled });
}
