import type { Network, Profile, ProfileSet } from "@/api/client";

export type Group = { title: string; profiles: Profile[]; network?: Network };

/** A brand's profiles under their networks or their sets; those disconnected last. */
export function groupsOf(
  all: Profile[],
  by: "network" | "set",
  networks: Map<string, Network>,
  sets: ProfileSet[],
): Group[] {
  const here = all.filter((p) => p.state !== "disconnected");
  const gone = all.filter((p) => p.state === "disconnected");
  const groups: Group[] =
    by === "network"
      ? [...Map.groupBy(here, (p) => p.network)].map(([network, profiles]) => ({
          title: networks.get(network)?.name ?? network,
          network: networks.get(network),
          profiles,
        }))
      : sets.map((set) => ({ title: set.name, profiles: here.filter((p) => set.profiles.includes(p.id)) }));
  if (by === "set") {
    const named = new Set(sets.flatMap((set) => set.profiles));
    groups.push({ title: "In no set", profiles: here.filter((p) => !named.has(p.id)) });
  }
  groups.push({ title: "Disconnected", profiles: gone });
  return groups.filter((group) => group.profiles.length > 0);
}
