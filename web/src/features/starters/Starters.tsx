import { Box, Flex, Menu, Portal } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useHere } from "@/app/useHere";
import { discardStarter, keepStarter, moreStarters, starterQueries } from "@/data/starters";
import { Thumb } from "@/features/calendar/Tray";
import { Part } from "@/features/today/Part";
import { Button } from "@/ui/Button";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { useAction } from "@/ui/useAction";

type Starter = Schemas["StarterOut"];
const REASONS: [Schemas["Reason"], string][] = [
  ["not_us", "It isn’t us: never this subject"],
  ["said", "We said that already"],
  ["wording", "The wording"],
  ["not_now", "Not now"],
  ["less", "Fewer of this kind"],
];

/** Proposed drafts, so that nobody faces an empty page. */
export function Starters() {
  const { brand, may } = useBrandContext();
  const act = useAction(brand.slug, ["starter", "post"]);
  const found = useQuery(starterQueries.list(brand.slug)).data;
  if (!found || !may("write")) return null;
  return (
    <Part title="Starters" count={found.length} empty="No starters wait.">
      <Box color="faded" fontSize="12px" mb="2px">
        Proposed by rules, from your brand sheet, dates, feeds, catalogue and what did well. Nothing is planned by
        itself.
      </Box>
      {found.map((one) => (
        <Row key={one.id} one={one} />
      ))}
      <Button mt="8px" onClick={() => void act(() => moreStarters(brand.slug))}>
        More starters
      </Button>
    </Part>
  );
}

function Row({ one }: { one: Starter }) {
  const { brand } = useBrandContext();
  const navigate = useNavigate();
  const here = useHere();
  const act = useAction(brand.slug, ["starter", "post"]);
  const name = one.text.slice(0, 60);
  async function keep() {
    const from = here();
    const done = await act(() => keepStarter(brand.slug, one.id));
    if (done && here() === from)
      await navigate({
        to: "/$brand/bench/$post",
        params: { brand: brand.slug, post: String(done.came.post) },
        search: {},
      });
  }
  return (
    <Flex gap="10px" py="8px" borderTopWidth="1px" borderColor="rule" align="flex-start">
      {one.media[0] && <Thumb brand={brand.slug} asset={one.media[0]} w="44px" h="36px" />}
      <Box flex="1" minW="0">
        <Box overflowWrap="anywhere" lineClamp={3}>
          {one.text}
        </Box>
        <Box color="faded" fontSize="12px">
          {one.reason}
        </Box>
      </Box>
      <Button aria-label={`Keep: ${name}`} onClick={() => void keep()}>
        Keep
      </Button>
      <Menu.Root lazyMount unmountOnExit positioning={{ placement: "bottom-end" }}>
        <Menu.Trigger asChild>
          <Button kind="quiet" aria-label={`Throw away: ${name}`}>
            ✕
          </Button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              {REASONS.map(([reason, words]) => (
                <MenuRow
                  key={reason}
                  value={reason}
                  onClick={() =>
                    void act(
                      () => discardStarter(brand.slug, one.id, { reason }),
                      "Thrown away. What comes next follows from why.",
                    )
                  }
                >
                  {words}
                </MenuRow>
              ))}
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
    </Flex>
  );
}
