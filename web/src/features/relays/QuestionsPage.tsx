import { Box, Flex } from "@chakra-ui/react";
import { Link, useSearch } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { answerFiring } from "@/data/relays";
import { useNetworks, useProfiles } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { QueryFailed } from "@/ui/QueryFailed";
import { formatInstant } from "@/ui/times";
import { useQuestions, useRelayAction } from "./queries";
import { RelaysHead } from "./RelaysHead";

/** What relays ask: each a ready draft, to go out, to be changed, or to be thrown away. */
export function QuestionsPage() {
  const { brand } = useBrandContext();
  const found = useQuestions(brand.slug);
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="12px" w="100%" maxW="980px">
      <RelaysHead title="Asked" about="Relays that ask first have these ready. Nothing goes out without your word." />
      {found.data.length === 0 && (
        <EmptyState
          title="Nothing is asked"
          words="When a relay that asks first sees something, its draft waits here."
        />
      )}
      {found.data.map((one) => (
        <AskedRow key={one.firing.id} one={one} />
      ))}
    </Box>
  );
}

function AskedRow({ one }: { one: Schemas["QuestionOut"] }) {
  const { brand, me, may } = useBrandContext();
  const { leg: named } = useSearch({ from: "/$brand/relays/asked" });
  const act = useRelayAction(brand.slug);
  const networks = useNetworks();
  const target = useProfiles(brand.slug).data?.find((p) => p.id === one.firing.target);
  const network = target && networks.get(target.network);
  const answer = (yes: boolean) =>
    void act(() => answerFiring(brand.slug, one.firing.id, { yes }), yes ? "It goes out." : "It is thrown away.");
  return (
    <Box
      as="article"
      aria-label={one.firing.title}
      borderTopWidth="2px"
      borderColor={named === one.firing.id ? "anil" : "ink"}
      py="12px"
    >
      <Flex gap="10px" align="center" mb="6px" flexWrap="wrap">
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={22} />}
        <b>{target?.display_name || target?.handle}</b>
        <Box color="faded">
          {one.firing.title}, seen {formatInstant(one.firing.fired_at, brand.zone, me.clock24)}
        </Box>
      </Flex>
      <Flex gap="14px" flexWrap="wrap">
        {one.media.map((asset) => (
          <Box key={asset} asChild h="170px" w="auto" maxW="220px" objectFit="contain" borderRadius="2px">
            <img src={`/media/${brand.slug}/${asset}/thumb`} alt="" loading="lazy" />
          </Box>
        ))}
        <Box flex="1" minW="240px">
          <Box whiteSpace="pre-wrap" overflowWrap="anywhere">
            {one.text || <i>no words yet</i>}
          </Box>
          {one.link && (
            <Box color="anil" overflowWrap="anywhere">
              {one.link}
            </Box>
          )}
          {may("publish") && (
            <Flex gap="10px" mt="12px" flexWrap="wrap" align="center">
              <Button kind="main" onClick={() => answer(true)}>
                Let it go out
              </Button>
              {one.firing.post && (
                <Button asChild>
                  <Link
                    to="/$brand/bench/$post"
                    params={{ brand: brand.slug, post: String(one.firing.post) }}
                    search={{}}
                  >
                    Change it first
                  </Link>
                </Button>
              )}
              <Button kind="quiet" onClick={() => answer(false)}>
                Throw it away
              </Button>
            </Flex>
          )}
        </Box>
      </Flex>
    </Box>
  );
}
