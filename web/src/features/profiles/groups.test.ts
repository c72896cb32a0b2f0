import { expect, test } from "vitest";
import type { Network, Profile, ProfileSet } from "@/api/client";
import { groupsOf } from "./groups";

const profile = (id: number, network: string, state = "connected") => ({ id, network, state }) as Profile;
const all = [
  profile(1, "brisk"),
  profile(2, "plaza"),
  profile(3, "brisk"),
  profile(4, "brisk", "disconnected"),
  profile(5, "own"),
];
const networks = new Map([
  ["brisk", { name: "Brisk" } as Network],
  ["plaza", { name: "Plaza" } as Network],
]);
const shown = (by: "network" | "set", sets: ProfileSet[] = []) =>
  groupsOf(all, by, networks, sets).map((group) => [group.title, group.profiles.map((p) => p.id)]);

test("profiles stand under their networks, what is disconnected last", () => {
  expect(shown("network")).toEqual([
    ["Brisk", [1, 3]],
    ["Plaza", [2]],
    ["own", [5]],
    ["Disconnected", [4]],
  ]);
});

test("by sets one may stand twice, and what is in none has a place", () => {
  const sets = [
    { name: "Winter", profiles: [1, 2, 4] },
    { name: "Empty", profiles: [] },
    { name: "Counters", profiles: [2] },
  ] as unknown as ProfileSet[];
  expect(shown("set", sets)).toEqual([
    ["Winter", [1, 2]],
    ["Counters", [2]],
    ["In no set", [3, 5]],
    ["Disconnected", [4]],
  ]);
});
