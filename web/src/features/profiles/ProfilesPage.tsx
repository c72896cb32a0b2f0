import { Box, Flex } from "@chakra-ui/react";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import type { Profile } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { Empty } from "@/ui/Empty";
import { Failed } from "@/ui/Failed";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { instantWords, zoneWords } from "@/ui/times";
import { ConnectPanel } from "./ConnectPanel";
import { useNetworks, useProfiles } from "./queries";
import { TimetablePanel } from "./TimetablePanel";

const STATE: Record<string, string> = {
  connected: "connected",
  must_be_reconnected: "must be reconnected",
  by_hand: "by hand",
  paused: "paused",
  disconnected: "disconnected",
};

/** Every profile of the brand, how it stands, and connecting more. */
export function ProfilesPage() {
  const { brand, may } = useHere();
  const { connected, refused } = useSearch({ from: "/$brand/profiles" });
  const navigate = useNavigate({ from: "/$brand/profiles" });
  const profiles = useProfiles(brand.slug);
  const [connecting, setConnecting] = useState(false);
  const [timetable, setTimetable] = useState<Profile | null>(null);
  if (profiles.error && !profiles.data) return <Failed error={profiles.error} again={() => profiles.refetch()} />;
  if (!profiles.data) return <Loading />;
  const fresh = (connected ?? "").split(",").filter(Boolean);
  const named = profiles.data.filter((p) => fresh.includes(String(p.id))).map((p) => p.handle);
  const connect = may("manage_profiles") ? (
    <Button kind={profiles.data.length ? "plain" : "main"} onClick={() => setConnecting(true)}>
      Connect profiles
    </Button>
  ) : null;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" maxW="1160px" w="100%">
      <Flex align="center" gap="16px" mb="14px" flexWrap="wrap">
        <Box as="h1" fontSize="28px" lineHeight="32px" flex="1">
          Profiles of {brand.name}
        </Box>
        {profiles.data.length > 0 && connect}
      </Flex>
      {(refused || named.length > 0) && (
        <Flex
          role={refused ? "alert" : "status"}
          align="center"
          gap="12px"
          mb="14px"
          p="10px 14px"
          bg="wash"
          borderLeft="3px solid"
          borderColor={refused ? "pimenton" : "epazote"}
        >
          <Box flex="1">
            {refused ?? `Connected: ${named.join(", ")}. A first timetable is made for each; change it to suit.`}
          </Box>
          <Button kind="quiet" aria-label="Dismiss" onClick={() => navigate({ search: {}, replace: true })}>
            ✕
          </Button>
        </Flex>
      )}
      {profiles.data.length === 0 ? (
        <Empty
          title="No profiles yet"
          words="Connect the profiles that this brand speaks through. You sign in at the network itself and choose there; Menudo never sees the password."
        >
          {connect}
        </Empty>
      ) : (
        <Box overflowX="auto" bg="card" borderWidth="1px" borderColor="rule" borderRadius="3px">
          <Box
            as="table"
            w="100%"
            minW="860px"
            css={{
              "& th, & td": { textAlign: "left", padding: "10px 12px", borderBottom: "1px solid var(--m-colors-rule)" },
              "& th": { fontSize: "12px", color: "var(--m-colors-faded)", fontWeight: 600 },
              "& tr:last-child td": { borderBottom: 0 },
            }}
          >
            <thead>
              <tr>
                <th scope="col">Profile</th>
                <th scope="col">State</th>
                <th scope="col">Connection ends</th>
                <th scope="col">Planned</th>
                <th scope="col">Trouble</th>
                <th scope="col">Last published</th>
                <th scope="col">Timetable</th>
              </tr>
            </thead>
            <tbody>
              {profiles.data.map((profile) => (
                <Row
                  key={profile.id}
                  profile={profile}
                  timetable={() => setTimetable(profile)}
                  reconnect={() => setConnecting(true)}
                />
              ))}
            </tbody>
          </Box>
        </Box>
      )}
      <ConnectPanel open={connecting} close={() => setConnecting(false)} />
      {timetable && <TimetablePanel profile={timetable} close={() => setTimetable(null)} />}
    </Box>
  );
}

function Row({ profile, timetable, reconnect }: { profile: Profile; timetable: () => void; reconnect: () => void }) {
  const { brand, me, may } = useHere();
  const network = useNetworks().get(profile.network);
  const when = (instant: string | null) => (instant ? instantWords(instant, brand.zone, me.clock24) : "not yet");
  const fine = profile.state === "connected";
  return (
    <tr>
      <td>
        <Flex gap="10px" align="center">
          {network && <NetworkTile letters={network.letters} shape={network.shape} size={28} />}
          <Box>
            <b>{profile.handle}</b>
            <Box color="faded" fontSize="12px">
              {profile.name} · {network?.name} · {zoneWords(profile.zone)}
            </Box>
          </Box>
        </Flex>
      </td>
      <td>
        <Box color={fine ? "epazote" : "pimenton"} fontWeight="600">
          {STATE[profile.state]}
        </Box>
        {!fine && may("manage_profiles") && (
          <Button kind="link" onClick={reconnect}>
            Reconnect
          </Button>
        )}
      </td>
      <td>{profile.connection_ends ? when(profile.connection_ends) : "open-ended"}</td>
      <td>{profile.planned}</td>
      <td>
        {profile.trouble > 0 ? (
          <Box color="pimenton" fontWeight="600">
            {profile.trouble}
          </Box>
        ) : (
          "none"
        )}
      </td>
      <td>{when(profile.last_published)}</td>
      <td>
        <Button
          kind="link"
          aria-label={`Timetable of ${profile.handle}: ${profile.slots.length} slots a week`}
          onClick={timetable}
        >
          {profile.slots.length} slots
        </Button>
      </td>
    </tr>
  );
}
