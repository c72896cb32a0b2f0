import { chakra, Menu, Portal } from "@chakra-ui/react";
import type { Network, Profile } from "@/api/client";
import { Button } from "@/ui/Button";
import { MenuList } from "@/ui/MenuParts";
import { NetworkTile } from "@/ui/NetworkTile";

type Props = { profiles: Profile[]; networks: Map<string, Network>; chosen: number[]; choose: (ids: number[]) => void };

const Row = chakra(Menu.CheckboxItem, {
  base: {
    display: "flex",
    alignItems: "center",
    gap: "10px",
    px: "12px",
    py: "8px",
    cursor: "pointer",
    "&[data-highlighted]": { bg: "wash" },
    "&[data-disabled]": { opacity: 0.6, cursor: "default" },
  },
});

/** Which profiles the post is for. */
export function ProfilePicker({ profiles, networks, chosen, choose }: Props) {
  const toggle = (id: number, on: boolean) => choose(on ? [...chosen, id] : chosen.filter((c) => c !== id));
  return (
    <Menu.Root closeOnSelect={false} positioning={{ placement: "bottom-end" }}>
      <Menu.Trigger asChild>
        <Button>
          Profiles <b>{chosen.length}</b>
        </Button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <MenuList>
            {profiles.length === 0 && <chakra.div p="12px">No profile is connected yet.</chakra.div>}
            {profiles.map((profile) => {
              const network = networks.get(profile.network);
              const on = chosen.includes(profile.id);
              return (
                <Row
                  key={profile.id}
                  value={String(profile.id)}
                  checked={on}
                  onCheckedChange={(now) => toggle(profile.id, now)}
                  disabled={!on && profile.state !== "connected"}
                >
                  <chakra.span w="16px" aria-hidden>
                    {on ? "✓" : ""}
                  </chakra.span>
                  {network && <NetworkTile letters={network.letters} shape={network.shape} size={22} />}
                  {profile.handle}
                  {profile.state !== "connected" && (
                    <chakra.span color="pimenton">{profile.state.replaceAll("_", " ")}</chakra.span>
                  )}
                </Row>
              );
            })}
          </MenuList>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}
