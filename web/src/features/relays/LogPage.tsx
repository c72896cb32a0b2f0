import { Box, Flex } from "@chakra-ui/react";
import { Link, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { draftFiring } from "@/data/relays";
import { useProfiles } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { StateShape, stateWords } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import { type Firing, useLog, useRelayAction } from "./queries";
import { RelaysHead } from "./RelaysHead";

/** Every item that relays saw, whether it fired, and why not. */
export function LogPage() {
  const { brand } = useBrandContext();
  const { relay } = useSearch({ from: "/$brand/relays/log" });
  const [page, setPage] = useState(1);
  const found = useLog(brand.slug, relay, page);
  const profiles = new Map((useProfiles(brand.slug).data ?? []).map((p) => [p.id, p.display_name || p.handle]));
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const { firings: legs, more } = found.data;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="12px" w="100%" maxW="1180px">
      <RelaysHead
        title={relay ? "Log of one relay" : "Log"}
        about="What relays saw in the last four months, whether they carried it, and why not."
      >
        {relay && (
          <Link
            to="/$brand/relays/log"
            params={{ brand: brand.slug }}
            search={{}}
            style={{ textDecoration: "underline" }}
          >
            Of all relays
          </Link>
        )}
      </RelaysHead>
      {legs.length === 0 && (
        <EmptyState
          title="Nothing yet"
          words="When something appears at the source of a relay that is on, it is told here."
        />
      )}
      {legs.map((leg) => (
        <LegRow key={leg.id} leg={leg} target={profiles.get(leg.target) ?? ""} />
      ))}
      <Flex gap="10px" mt="12px">
        {page > 1 && <Button onClick={() => setPage(page - 1)}>Later</Button>}
        {more && <Button onClick={() => setPage(page + 1)}>Earlier</Button>}
      </Flex>
    </Box>
  );
}

const SAID: Record<string, string> = {
  fires: "carried",
  asked: "asks",
  declined: "thrown away",
  told: "told",
  stopped: "could not be posted",
};

function LegRow({ leg, target }: { leg: Firing; target: string }) {
  const { brand, me, may } = useBrandContext();
  const act = useRelayAction(brand.slug);
  const path = { brand: brand.slug };
  const fired = leg.verdict === "fires";
  return (
    <Flex
      as="article"
      aria-label={`${leg.title} to ${target}`}
      gap="14px"
      py="8px"
      borderTopWidth="1px"
      borderColor="rule"
      align="baseline"
      flexWrap="wrap"
    >
      <Box w="130px" color="faded" fontVariantNumeric="tabular-nums">
        {formatInstant(leg.fired_at, brand.zone, me.clock24)}
      </Box>
      <Box flex="1" minW="260px">
        <Box fontWeight="600" overflowWrap="anywhere">
          {leg.title || "without words"}
        </Box>
        <Box color="faded" fontSize="12px">
          {leg.source && `${leg.source} `}to {target}
        </Box>
      </Box>
      <Box w="330px" color={fired ? "ink" : leg.verdict === "stopped" ? "pimenton" : "faded"}>
        <Flex gap="6px" align="baseline">
          {leg.state && fired && <StateShape state={leg.state} size={12} />}
          <b>{SAID[leg.verdict] ?? "not carried"}</b>
          {fired && leg.state && <span>{stateWords(leg.state)}</span>}
        </Flex>
        {leg.explanation}
      </Box>
      <Box w="90px">
        {leg.delivery && leg.state !== "unplanned" ? (
          <Link
            to="/$brand/calendar"
            params={path}
            search={{ open: leg.delivery }}
            style={{ textDecoration: "underline" }}
          >
            Its post
          </Link>
        ) : leg.verdict === "told" && !leg.post && may("write") ? (
          <Button
            kind="link"
            onClick={() => void act(() => draftFiring(brand.slug, leg.id), "A draft of it waits in the tray.")}
          >
            Make a draft
          </Button>
        ) : leg.post ? (
          <Link
            to="/$brand/bench/$post"
            params={{ ...path, post: String(leg.post) }}
            search={{}}
            style={{ textDecoration: "underline" }}
          >
            Its draft
          </Link>
        ) : null}
      </Box>
    </Flex>
  );
}
