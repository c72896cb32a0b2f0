import { Box, chakra, Flex, Menu, Portal } from "@chakra-ui/react";
import { memo } from "react";
import type { Column, Network, Profile } from "@/api/client";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { NetworkTile } from "@/ui/NetworkTile";
import { StateShape } from "@/ui/StateShape";
import { Cell } from "./cells";
import { Findings } from "./cells/Findings";
import { type BenchColumn, split } from "./draft";
import { usePlace } from "./place";

type Props = { column: BenchColumn; network: Network | undefined; check: Column | undefined; profiles: Profile[] };

/** A network over its column: its profiles, tickable, one of them split off if wished; and what the rules say in all. */
export const ColumnHead = memo(function ColumnHead({ column, network, check, profiles }: Props) {
  const stops = check?.findings.filter((f) => f.level === "stops").length ?? 0;
  const advice = check?.findings.filter((f) => f.level === "advice").length ?? 0;
  return (
    <Cell bg="paper" data-column-head={column.key}>
      <Flex gap="10px" align="flex-start">
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={26} />}
        <Box minW="0" flex="1">
          <b>{network?.name}</b>
          <WhichProfiles column={column} network={network} profiles={profiles} />
        </Box>
        {check && (
          <Flex
            gap="4px"
            align="center"
            fontWeight="700"
            fontSize="11.5px"
            color={stops ? "pimenton" : advice ? "maizeInk" : "epazote"}
            data-testid="fits"
          >
            <StateShape state={stops ? "in_trouble" : "published"} size={11} />
            {stops ? `${stops} ${stops === 1 ? "stop" : "stops"}` : advice ? `${advice} advice` : "fits"}
          </Flex>
        )}
      </Flex>
      {check && <Findings column={column} findings={check.findings.filter((f) => f.field === "profiles")} />}
    </Cell>
  );
});

/** The network's profiles that are chosen; pressed, all of them, to tick, and to split one off. */
function WhichProfiles({ column, network, profiles }: Omit<Props, "check">) {
  const { change, now } = usePlace();
  const mine = profiles.filter((p) => p.network === column.network && (p.usable || now().profiles.includes(p.id)));
  const names = column.profiles.map((p) => p.handle).join(", ");
  const toggle = (id: number, on: boolean) =>
    change((d) => ({ ...d, profiles: on ? [...d.profiles, id] : d.profiles.filter((p) => p !== id) }));
  return (
    <Menu.Root lazyMount unmountOnExit closeOnSelect={false} positioning={{ placement: "bottom-start" }}>
      <Menu.Trigger asChild>
        <chakra.button
          type="button"
          display="block"
          textAlign="left"
          color="faded"
          fontSize="11.5px"
          lineHeight="15px"
          minH="24px"
          cursor="pointer"
          aria-label={`${names}: choose profiles on ${network?.name ?? column.network}`}
        >
          {names} ▾
        </chakra.button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <MenuList>
            {mine.map((profile) => {
              const on = now().profiles.includes(profile.id);
              return (
                <Menu.CheckboxItem
                  key={profile.id}
                  value={String(profile.id)}
                  checked={on}
                  disabled={!on && !profile.usable}
                  onCheckedChange={(next) => toggle(profile.id, next)}
                  style={{ padding: "8px 12px", display: "flex", gap: 10, cursor: "pointer" }}
                >
                  <chakra.span w="16px" aria-hidden>
                    {on ? "✓" : ""}
                  </chakra.span>
                  {profile.display_name || profile.handle}
                </Menu.CheckboxItem>
              );
            })}
            {column.profile === null
              ? column.profiles.length > 1 &&
                column.profiles.map((profile) => (
                  <MenuRow
                    key={`own-${profile.id}`}
                    value={`own-${profile.id}`}
                    onSelect={() => change((d) => split(d, profile, true))}
                  >
                    {profile.handle} in a column of its own
                  </MenuRow>
                ))
              : column.profiles.map((profile) => (
                  <MenuRow
                    key={`back-${profile.id}`}
                    value={`back-${profile.id}`}
                    onSelect={() => change((d) => split(d, profile, false))}
                  >
                    Back into {network?.name}'s column
                  </MenuRow>
                ))}
          </MenuList>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}
