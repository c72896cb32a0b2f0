import { Box, chakra, Flex, Menu, Portal } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { removeTurn, reorderTurns } from "@/data/rotas";
import { Thumb } from "@/features/calendar/Tray";
import { Button } from "@/ui/Button";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { type RotaPage, type Turn, useRotaAction } from "./queries";
import { TurnPanel } from "./TurnPanel";

/** A turn's row head: its words, how often it went, and what can be done with it. */
export function TurnHead({ page, turn, n }: { page: RotaPage; turn: Turn; n: number }) {
  const { brand, may } = useBrandContext();
  const act = useRotaAction(brand.slug);
  const [limits, setLimits] = useState(false);
  const first = turn.wordings[0];
  const name = first?.headline || "no words yet";
  const order = (to: number) => {
    const ids = page.turns.map((t) => t.id).filter((id) => id !== turn.id);
    ids.splice(to, 0, turn.id);
    return act(() => reorderTurns(brand.slug, page.rota.id, { turns: ids }));
  };
  const says = [
    turn.wordings.length > 1 && `${turn.wordings.length} wordings`,
    turn.used > 0 && `went ${turn.used}×`,
    turn.times !== null && `${turn.times}× at most`,
    turn.until && `until ${turn.until}`,
    (turn.seasons?.length ?? 0) > 0 && "in season",
  ].filter(Boolean);
  return (
    <Flex align="center" gap="8px" minH="32px">
      {first?.thumb && <Thumb brand={brand.slug} asset={first.thumb} w="30px" h="28px" />}
      <Box flex="1" minW="0" lineHeight="15px">
        <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: String(first?.post ?? "new") }} search={{}}>
          <chakra.span fontWeight="600" fontSize="12.5px" lineClamp={1} wordBreak="break-all">
            {name}
          </chakra.span>
        </Link>
        {says.length > 0 && (
          <Box color="faded" fontSize="11px">
            {says.join(" · ")}
          </Box>
        )}
      </Box>
      {may("publish") && (
        <Menu.Root lazyMount unmountOnExit positioning={{ placement: "bottom-start" }}>
          <Menu.Trigger asChild>
            <Button kind="quiet" aria-label={`More for ${name}`}>
              …
            </Button>
          </Menu.Trigger>
          <Portal>
            <Menu.Positioner>
              <MenuList>
                {n > 0 && (
                  <MenuRow value="up" onClick={() => void order(n - 1)}>
                    Earlier
                  </MenuRow>
                )}
                {n < page.turns.length - 1 && (
                  <MenuRow value="down" onClick={() => void order(n + 1)}>
                    Later
                  </MenuRow>
                )}
                <MenuRow value="limits" onClick={() => setLimits(true)}>
                  Wordings and limits
                </MenuRow>
                <MenuRow
                  value="out"
                  onClick={() =>
                    void act(
                      () => removeTurn(brand.slug, page.rota.id, turn.id),
                      "It is out of the rota, and a draft again.",
                    )
                  }
                >
                  Take it out of the rota
                </MenuRow>
              </MenuList>
            </Menu.Positioner>
          </Portal>
        </Menu.Root>
      )}
      {limits && <TurnPanel rota={page.rota.id} turn={turn} close={() => setLimits(false)} />}
    </Flex>
  );
}
