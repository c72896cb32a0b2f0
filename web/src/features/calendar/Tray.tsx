import { Box, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { useNetworks } from "@/features/profiles/queries";

/** Drafts without a date, docked at the calendar's foot. */
export function Tray({ drafts }: { drafts: Schemas["TrayOut"][] }) {
  const { brand } = useHere();
  const networks = useNetworks();
  return (
    <Flex
      as="section"
      aria-label="Tray"
      position="sticky"
      bottom="0"
      borderTopWidth="2px"
      borderColor="ink"
      bg="wash"
      px={{ base: "12px", md: "24px" }}
      py="10px"
      gap="12px"
      align="flex-start"
      zIndex="5"
    >
      <Box w="172px" flex="none" display={{ base: "none", md: "block" }}>
        <Box as="h2" fontSize="18px" lineHeight="22px">
          Tray
        </Box>
        <Box fontSize="12px" lineHeight="16px" color="faded">
          {drafts.length === 0
            ? "Drafts without a date gather here."
            : `${drafts.length} ${drafts.length === 1 ? "draft" : "drafts"} without a date.`}
        </Box>
      </Box>
      <Flex as="ul" gap="12px" overflowX="auto" flex="1" listStyleType="none" pb="2px">
        {drafts.map((draft) => (
          <Box as="li" key={draft.post} flex="none">
            <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: String(draft.post) }} search={{}}>
              <Flex
                w="196px"
                h="70px"
                gap="8px"
                p="6px 8px"
                bg="card"
                borderWidth="1px"
                borderStyle="dashed"
                borderColor="faded"
                borderRadius="2px"
                fontSize="12px"
                lineHeight="16px"
                _hover={{ borderColor: "ink" }}
              >
                {draft.thumb && <Thumb brand={brand.slug} asset={draft.thumb} w="44px" h="54px" />}
                <Box minW="0">
                  <Box fontWeight="600" lineClamp={2}>
                    {draft.headline || "No words yet"}
                  </Box>
                  <Box color="faded">
                    {[
                      draft.pictures ? `${draft.pictures} ${draft.pictures === 1 ? "picture" : "pictures"}` : "text",
                      ...draft.networks.map((n) => networks.get(n)?.letters),
                    ].join(" · ")}
                  </Box>
                </Box>
              </Flex>
            </Link>
          </Box>
        ))}
      </Flex>
    </Flex>
  );
}

export function Thumb({ brand, asset, w, h }: { brand: string; asset: number; w: string; h: string }) {
  return (
    <Box asChild w={w} h={h} flex="none" objectFit="cover" borderRadius="2px">
      <img src={`/media/${brand}/${asset}/thumb`} alt="" loading="lazy" />
    </Box>
  );
}
