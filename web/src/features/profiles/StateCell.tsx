import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { Network, Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { StateShape } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import type { Open } from "./ProfilesPage";
import { useProfileActions } from "./useProfileActions";

type Look = { words: string; shape: string; colour: string };
const LOOKS: Record<string, Look> = {
  connected: { words: "connected", shape: "published", colour: "epazote" },
  by_hand: { words: "by hand", shape: "waiting_for_hand", colour: "maizeInk" },
  not_ready: { words: "not ready yet", shape: "sent_back", colour: "pimenton" },
  must_be_reconnected: { words: "must be reconnected", shape: "in_trouble", colour: "pimenton" },
  disconnected: { words: "disconnected", shape: "called_off", colour: "faded" },
  paused: { words: "paused", shape: "held", colour: "maizeInk" },
};

/** How a profile stands, in a shape and in words, and what to do about it. */
export function StateCell({
  profile,
  network,
  act,
}: {
  profile: Profile;
  network: Network | undefined;
  act: (open: Open) => void;
}) {
  const { brand, me, may } = useBrandContext();
  const actions = useProfileActions();
  const manages = may("manage_profiles");
  const look = LOOKS[profile.paused ? "paused" : profile.state] ?? LOOKS.connected;
  const when = (at: string) => formatInstant(at, brand.zone, me.clock24);
  const days = profile.expires_in_days;
  const notes: ReactNode[] = [];
  if (profile.paused)
    notes.push(
      <>
        {profile.paused.ends_at ? `Until ${when(profile.paused.ends_at)}, by` : "By"} {profile.paused.created_by}
        {profile.paused.reason && `: “${profile.paused.reason}”`}.
      </>,
    );
  for (const condition of profile.unmet)
    notes.push(
      <>
        <b>Not met:</b> {condition.message} {condition.remedy}
      </>,
    );
  if (profile.state === "connected" && profile.connection_expires_at && profile.warning)
    notes.push(
      <Box as="b" color={days !== null && days <= 3 ? "pimenton" : "maizeInk"}>
        Its connection ends in {days} {days === 1 ? "day" : "days"}: {when(profile.connection_expires_at)}.
      </Box>,
    );
  else if (profile.state === "connected" && profile.connection_expires_at)
    notes.push(
      <>
        Until {when(profile.connection_expires_at)}, as {profile.account}.
      </>,
    );
  if (profile.state === "must_be_reconnected") notes.push("What is planned waits. The network ended the connection.");
  if (profile.by_link) notes.push(<>Connected by {profile.by_link}, by link.</>);
  if (profile.state === "by_hand")
    notes.push(profile.keeper_name ? <>{profile.keeper_name} publishes.</> : <>Whoever may publish is told.</>);
  return (
    <Box>
      <Flex align="center" gap="6px" fontWeight="600" color={look?.colour}>
        <StateShape state={look?.shape ?? ""} size={12} />
        {look?.words}
      </Flex>
      {notes.map((note, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: notes have no name and keep their order
        <Box key={n} fontSize="12px" lineHeight="16px" color="faded" mt="2px">
          {note}
        </Box>
      ))}
      {manages && (
        <Flex gap="12px" mt="2px">
          {(profile.state === "must_be_reconnected" || (profile.state === "connected" && profile.warning)) && (
            <Button kind="link" onClick={() => void actions.goAgain(profile)}>
              Reconnect at {network?.name}
            </Button>
          )}
          {profile.state === "not_ready" && (
            <Button kind="link" onClick={() => void actions.check(profile)}>
              Check again
            </Button>
          )}
          {profile.state === "by_hand" && !profile.keeper_name && (
            <Button kind="link" onClick={() => act({ what: "describe", profile })}>
              Say who is in charge
            </Button>
          )}
        </Flex>
      )}
    </Box>
  );
}
