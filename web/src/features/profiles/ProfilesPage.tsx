import { Box, Flex } from "@chakra-ui/react";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import type { Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { formatZone } from "@/ui/times";
import { ByHandPanel } from "./ByHandPanel";
import { ClientLinksPanel } from "./ClientLinksPanel";
import { ConnectPanel } from "./ConnectPanel";
import { DescribePanel } from "./DescribePanel";
import { DisconnectPanel } from "./DisconnectPanel";
import { groupsOf } from "./groups";
import { PausePanel } from "./PausePanel";
import { ProfileTable } from "./ProfileTable";
import { useNetworks, useProfileCounts, useSets } from "./queries";
import { SetsPanel } from "./SetsPanel";
import { TimetablePanel } from "./TimetablePanel";
import { useConnectOutcome } from "./useConnectOutcome";

/** Which panel is open, and for which profile. */
export type Open = {
  what: "connect" | "by-hand" | "link" | "sets" | "timetable" | "describe" | "disconnect" | "pause";
  profile?: Profile;
};

/** Every profile of the brand, how it stands, and what can be done with it. */
export function ProfilesPage() {
  const { brand, may } = useBrandContext();
  const { connected, outcome, by = "network" } = useSearch({ from: "/$brand/profiles" });
  const { refused } = useConnectOutcome(outcome);
  const navigate = useNavigate({ from: "/$brand/profiles" });
  const profiles = useProfileCounts(brand.slug);
  const sets = useSets(brand.slug).data ?? [];
  const networks = useNetworks();
  const [open, setOpen] = useState<Open | null>(null);
  const close = () => setOpen(null);
  if (profiles.error && !profiles.data) return <QueryFailed error={profiles.error} again={() => profiles.refetch()} />;
  if (!profiles.data) return <Loading />;

  const all = profiles.data;
  const fresh = new Set((connected ?? "").split(","));
  const came = all.filter((p) => fresh.has(String(p.id)));
  const manages = may("manage_profiles");
  const profile = open?.profile && all.find((p) => p.id === open.profile?.id);
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" w="100%" maxW="1320px">
      <Flex align="center" gap="10px" mb="14px" flexWrap="wrap">
        <Box flex="1" minW="260px">
          <Box as="h1" fontSize="28px" lineHeight="32px">
            Profiles of {brand.name}
          </Box>
          <Box color="faded" fontSize="13px">
            In {formatZone(brand.zone)}, but for profiles with a zone of their own.
          </Box>
        </Box>
        {all.length > 0 && (
          <Flex role="group" aria-label="Grouped by" borderWidth="1px" borderColor="rule" borderRadius="3px" bg="card">
            {(["network", "set"] as const).map((value) => (
              <Button
                key={value}
                kind="quiet"
                aria-pressed={by === value}
                color={by === value ? "ink" : "faded"}
                borderBottom="2px solid"
                borderColor={by === value ? "ink" : "transparent"}
                borderRadius="0"
                onClick={() => navigate({ search: (s) => ({ ...s, by: value }), replace: true })}
              >
                By {value}
              </Button>
            ))}
          </Flex>
        )}
        {may("write") && all.length > 0 && <Button onClick={() => setOpen({ what: "sets" })}>Sets</Button>}
        {may("publish") && all.length > 0 && <Button onClick={() => setOpen({ what: "pause" })}>Pause</Button>}
        {manages && <Button onClick={() => setOpen({ what: "link" })}>Ask a client</Button>}
        {manages && <Button onClick={() => setOpen({ what: "by-hand" })}>Add by hand</Button>}
        {manages && (
          <Button kind={all.length ? "plain" : "main"} onClick={() => setOpen({ what: "connect" })}>
            Connect profiles
          </Button>
        )}
      </Flex>
      {(refused || came.length > 0) && (
        <Box mb="14px">
          <Bar tone={refused ? "pimenton" : "epazote"} role={refused ? "alert" : "status"}>
            <Box flex="1">{refused || <Arrived came={came} />}</Box>
            <Button kind="quiet" aria-label="Dismiss" onClick={() => navigate({ search: { by }, replace: true })}>
              ✕
            </Button>
          </Bar>
        </Box>
      )}
      {all.length === 0 ? (
        <EmptyState
          title="No profiles yet"
          words="Connect the profiles that this brand speaks through. You sign in at the network itself and choose there; Menudo never sees the password. What no program may post to is added by hand."
        />
      ) : (
        <ProfileTable groups={groupsOf(all, by, networks, sets)} networks={networks} act={setOpen} />
      )}
      <ConnectPanel open={open?.what === "connect"} close={close} />
      {open?.what === "by-hand" && <ByHandPanel close={close} />}
      {open?.what === "link" && <ClientLinksPanel close={close} />}
      {open?.what === "sets" && <SetsPanel profiles={all} close={close} />}
      {open?.what === "pause" && <PausePanel profile={profile ?? null} close={close} />}
      {open?.what === "timetable" && profile && <TimetablePanel profile={profile} close={close} />}
      {open?.what === "describe" && profile && <DescribePanel profile={profile} close={close} />}
      {open?.what === "disconnect" && profile && <DisconnectPanel profile={profile} close={close} />}
    </Box>
  );
}

/** What came back from the network: what is connected, and what isn't ready and why. */
function Arrived({ came }: { came: Profile[] }) {
  const ready = came.filter((p) => p.state === "connected").map((p) => p.handle);
  const waiting = came.filter((p) => p.state === "not_ready");
  return (
    <>
      {ready.length > 0 && (
        <span>Connected: {ready.join(", ")}. A first timetable is made for each; change it to suit. </span>
      )}
      {waiting.map((p) => (
        <Box key={p.id}>
          <b>{p.handle} is not ready yet:</b> {p.unmet.map((c) => `not met is “${c.message}” ${c.remedy}`).join(" ")}
        </Box>
      ))}
    </>
  );
}
