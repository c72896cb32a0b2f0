import { Box, Flex } from "@chakra-ui/react";
import { Link, useSearch } from "@tanstack/react-router";
import { api, got, type Schemas } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { useNetworks, useProfiles } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { Empty } from "@/ui/Empty";
import { Failed } from "@/ui/Failed";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { instantWords } from "@/ui/times";
import { useAsked, useRelayDeed } from "./queries";
import { RelaysHead } from "./RelaysHead";

/** What relays ask: each a ready draft, to go out, to be changed, or to be thrown away. */
export function AskedPage() {
  const { brand } = useHere();
  const found = useAsked(brand.slug);
  if (found.error && !found.data) return <Failed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="12px" w="100%" maxW="980px">
      <RelaysHead title="Asked" about="Relays that ask first have these ready. Nothing goes out without your word." />
      {found.data.length === 0 && (
        <Empty title="Nothing is asked" words="When a relay that asks first sees something, its draft waits here." />
      )}
      {found.data.map((one) => (
        <AskedRow key={one.leg.id} one={one} />
      ))}
    </Box>
  );
}

function AskedRow({ one }: { one: Schemas["AskedOut"] }) {
  const { brand, me, may } = useHere();
  const { leg: named } = useSearch({ from: "/$brand/relays/asked" });
  const deed = useRelayDeed(brand.slug);
  const networks = useNetworks();
  const target = useProfiles(brand.slug).data?.find((p) => p.id === one.leg.target);
  const network = target && networks.get(target.network);
  const answer = (yes: boolean) =>
    void deed(
      () =>
        got(
          api.POST("/api/brands/{brand}/legs/{id}/answer", {
            params: { path: { brand: brand.slug, id: one.leg.id } },
            body: { yes },
          }),
        ),
      yes ? "It goes out." : "It is thrown away.",
    );
  return (
    <Box
      as="article"
      aria-label={one.leg.title}
      borderTopWidth="2px"
      borderColor={named === one.leg.id ? "anil" : "ink"}
      py="12px"
    >
      <Flex gap="10px" align="center" mb="6px" flexWrap="wrap">
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={22} />}
        <b>{target?.called || target?.handle}</b>
        <Box color="faded">
          {one.leg.title}, seen {instantWords(one.leg.at, brand.zone, me.clock24)}
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
              {one.leg.post && (
                <Button asChild>
                  <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: String(one.leg.post) }} search={{}}>
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
