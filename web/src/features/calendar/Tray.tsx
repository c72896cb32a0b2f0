import { Box, chakra, Flex } from "@chakra-ui/react";
import { useDraggable } from "@dnd-kit/core";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { memo } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useNetworks } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { standingFoot } from "@/ui/standingFoot";
import type { Draft } from "./board/board";
import { SpotBox } from "./board/SpotBox";
import { type Filters, toggleFilter } from "./filters";
import { InkMark } from "./Labels";
import { useLabels, useTray } from "./queries";

/** Drafts without a date, docked at the calendar's foot: to be lifted into it, one by one, or laid out together. */
export const Tray = memo(function Tray({ narrow }: { narrow: Filters }) {
  const { brand, may } = useBrandContext();
  const found = useTray(brand.slug, narrow);
  const drafts = found.data?.drafts ?? [];
  const failed = found.error && !found.data;
  const isPart = (found.data?.total ?? 0) > drafts.length;
  const { lay } = useSearch({ from: "/$brand/calendar" });
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const chosen = (lay ?? "").split(",").filter(Boolean).map(Number);
  const set = (next: string | undefined) => navigate({ search: (s) => ({ ...s, lay: next }) });
  return (
    <Box ref={standingFoot} position="sticky" bottom="0" zIndex="5">
      <Box
        asChild
        borderTopWidth="2px"
        borderColor="ink"
        bg="wash"
        px={{ base: "12px", md: "24px" }}
        py="8px"
        display="flex"
        gap="12px"
        alignItems="flex-start"
      >
        <SpotBox spot={{ tray: true }} id="tray" role="region" aria-label="Tray">
          <Box w="172px" flex="none" display={{ base: failed ? "block" : "none", md: "block" }}>
            <Box as="h2" fontSize="18px" lineHeight="22px">
              Tray
            </Box>
            <Box fontSize="12px" lineHeight="16px" color="faded">
              {found.data && countWords(found.data)}
              {failed && (
                <span role="alert">
                  The drafts could not be read.{" "}
                  <Button kind="link" fontSize="12px" onClick={() => found.refetch()}>
                    Try again
                  </Button>
                </span>
              )}
            </Box>
            {drafts.length > 1 && may("publish") && (
              <Button
                kind="link"
                fontSize="12px"
                onClick={() => set(chosen.length ? undefined : drafts.map((d) => d.post).join(","))}
              >
                {chosen.length ? "Choose none" : isPart ? `Choose these ${drafts.length}` : "Choose all"}
              </Button>
            )}
          </Box>
          <Flex as="ul" gap="12px" overflowX="auto" flex="1" listStyleType="none" pb="2px">
            {drafts.map((draft) => (
              <DraftCard
                key={draft.post}
                draft={draft}
                chosen={chosen.includes(draft.post)}
                choose={() => set(toggleFilter(lay, String(draft.post)))}
              />
            ))}
          </Flex>
        </SpotBox>
      </Box>
    </Box>
  );
});

function countWords({ drafts, total }: Schemas["TrayPage"]): string {
  if (!total) return "Drafts without a date gather here.";
  if (total > drafts.length) return `The last ${drafts.length} of ${total} drafts without a date.`;
  return `${total} ${total === 1 ? "draft" : "drafts"} without a date.`;
}

function DraftCard({ draft, chosen, choose }: { draft: Draft; chosen: boolean; choose: () => void }) {
  const { brand, may } = useBrandContext();
  const networks = useNetworks();
  const labels = (useLabels(brand.slug).data ?? []).filter((l) => draft.labels.includes(l.id));
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: `draft:${draft.post}`,
    data: { draft },
    disabled: !may("publish"),
  });
  return (
    <Box
      as="li"
      flex="none"
      position="relative"
      ref={setNodeRef}
      {...listeners}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 20 } : undefined}
    >
      <Link
        to="/$brand/bench/$post"
        params={{ brand: brand.slug, post: String(draft.post) }}
        search={{}}
        draggable={false}
        onClick={(e) => isDragging && e.preventDefault()}
      >
        <Flex
          w="206px"
          h="66px"
          gap="8px"
          p="5px 30px 5px 8px"
          bg="card"
          borderWidth={chosen ? "2px" : "1px"}
          borderStyle={chosen ? "solid" : "dashed"}
          borderColor={chosen ? "anil" : "faded"}
          borderRadius="2px"
          fontSize="12px"
          lineHeight="16px"
          _hover={{ borderColor: "ink" }}
        >
          {draft.thumb && <Thumb brand={brand.slug} asset={draft.thumb} w="44px" h="52px" />}
          <Box minW="0">
            <Box fontWeight="600" lineClamp={2}>
              {draft.headline || "No words yet"}
            </Box>
            <Flex color="faded" gap="5px" align="center">
              {labels.slice(0, 2).map((l) => (
                <InkMark key={l.id} ink={l.ink} />
              ))}
              <Box as="span" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap" minW="0">
                {[
                  draft.pictures ? `${draft.pictures} ${draft.pictures === 1 ? "picture" : "pictures"}` : "text",
                  ...draft.networks.map((n) => networks.get(n)?.letters),
                ].join(" · ")}
              </Box>
            </Flex>
          </Box>
        </Flex>
      </Link>
      {may("publish") && (
        <chakra.label
          position="absolute"
          top="3px"
          right="3px"
          display="grid"
          placeItems="center"
          w="26px"
          h="26px"
          cursor="pointer"
        >
          <input
            type="checkbox"
            checked={chosen}
            onChange={choose}
            aria-label={`Choose ${draft.headline || "the draft"} for laying out`}
          />
        </chakra.label>
      )}
    </Box>
  );
}

export function Thumb({ brand, asset, w, h }: { brand: string; asset: number; w: string; h: string }) {
  return (
    <Box asChild w={w} h={h} flex="none" objectFit="cover" borderRadius="2px">
      <img src={`/media/${brand}/${asset}/thumb`} alt="" loading="lazy" draggable={false} />
    </Box>
  );
}
