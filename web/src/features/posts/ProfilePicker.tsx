import { chakra, Menu, Portal } from "@chakra-ui/react";
import type { Network, Profile, ProfileSet } from "@/api/client";
import { NetworkMark } from "@/features/profiles/NetworkMark";
import { Button } from "@/ui/Button";
import { ChoiceFinder, MANY } from "@/ui/ManyChoices";
import { MenuList } from "@/ui/MenuParts";
import { NetworkTile } from "@/ui/NetworkTile";

type Props = {
  profiles: Profile[];
  sets: ProfileSet[];
  networks: Map<string, Network>;
  chosen: number[];
  choose: (ids: number[]) => void;
};

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

/** Which profiles the post is for: whole sets at a press, or one by one. */
export function ProfilePicker({ profiles, sets, networks, chosen, choose }: Props) {
  const open = profiles.filter((p) => p.usable || chosen.includes(p.id));
  const usable = (set: ProfileSet) => set.profiles.filter((id) => profiles.some((p) => p.id === id && p.usable));
  const whole = (set: ProfileSet) => usable(set).length > 0 && usable(set).every((id) => chosen.includes(id));
  const toggleSet = (set: ProfileSet, on: boolean) =>
    choose(on ? [...new Set([...chosen, ...usable(set)])] : chosen.filter((id) => !set.profiles.includes(id)));
  const toggle = (id: number, on: boolean) => choose(on ? [...chosen, id] : chosen.filter((c) => c !== id));
  const trigger = (
    <Button>
      Profiles <b>{chosen.length}</b>
    </Button>
  );
  const shown = [...open, ...profiles.filter((p) => !open.includes(p) && p.state !== "disconnected")];
  if (shown.length + sets.length > MANY)
    return (
      <ChoiceFinder
        end
        label="Profiles"
        trigger={trigger}
        choices={[
          ...sets.map((set) => ({
            value: `set-${set.id}`,
            words: `${set.name}, set of ${set.profiles.length}`,
            refused: usable(set).length ? undefined : "none of it can be planned for",
          })),
          ...shown.map((profile) => ({
            value: String(profile.id),
            words: profile.display_name || profile.handle,
            mark: <NetworkMark network={profile.network} size={22} />,
            refused: profile.usable ? undefined : profile.state.replaceAll("_", " "),
          })),
        ]}
        chosen={[...sets.filter(whole).map((set) => `set-${set.id}`), ...chosen.map(String)]}
        toggle={(value) => {
          const set = sets.find((one) => `set-${one.id}` === value);
          if (set) toggleSet(set, !whole(set));
          else toggle(Number(value), !chosen.includes(Number(value)));
        }}
      />
    );
  return (
    <Menu.Root closeOnSelect={false} positioning={{ placement: "bottom-end" }}>
      <Menu.Trigger asChild>{trigger}</Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <MenuList maxH="70vh" overflowY="auto">
            {profiles.length === 0 && <chakra.div p="12px">No profile is connected yet.</chakra.div>}
            {sets.map((set) => (
              <Row
                key={`set-${set.id}`}
                value={`set-${set.id}`}
                checked={whole(set)}
                onCheckedChange={(now) => toggleSet(set, now)}
                disabled={usable(set).length === 0}
              >
                <chakra.span w="16px" aria-hidden>
                  {whole(set) ? "✓" : ""}
                </chakra.span>
                <b>{set.name}</b>
                <chakra.span color="faded">set of {set.profiles.length}</chakra.span>
              </Row>
            ))}
            {sets.length > 0 && <chakra.div borderTopWidth="1px" borderColor="ink" />}
            {shown.map((profile) => {
              const network = networks.get(profile.network);
              const on = chosen.includes(profile.id);
              return (
                <Row
                  key={profile.id}
                  value={String(profile.id)}
                  checked={on}
                  onCheckedChange={(now) => toggle(profile.id, now)}
                  disabled={!on && !profile.usable}
                >
                  <chakra.span w="16px" aria-hidden>
                    {on ? "✓" : ""}
                  </chakra.span>
                  {network && <NetworkTile letters={network.letters} shape={network.shape} size={22} />}
                  {profile.display_name || profile.handle}
                  {profile.paused && <chakra.span color="maizeInk">paused</chakra.span>}
                  {profile.state !== "connected" && (
                    <chakra.span color={profile.usable ? "faded" : "pimenton"}>
                      {profile.state.replaceAll("_", " ")}
                    </chakra.span>
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
