import type { Profile, ProfileSet } from "@/api/client";
import { useProfileChoice } from "@/features/profiles/useProfileChoice";
import { Button } from "@/ui/Button";
import { ChoiceMenu } from "@/ui/ChoiceMenu";

type Props = {
  profiles: Profile[];
  sets: ProfileSet[];
  chosen: number[];
  choose: (ids: number[]) => void;
};

/** Which profiles the post is for: whole sets at a press, or one by one. */
export function ProfilePicker({ profiles, sets, chosen, choose }: Props) {
  const asChoice = useProfileChoice();
  const open = profiles.filter((p) => p.usable || chosen.includes(p.id));
  const usable = (set: ProfileSet) => set.profiles.filter((id) => profiles.some((p) => p.id === id && p.usable));
  const whole = (set: ProfileSet) => usable(set).length > 0 && usable(set).every((id) => chosen.includes(id));
  const toggleSet = (set: ProfileSet, on: boolean) =>
    choose(on ? [...new Set([...chosen, ...usable(set)])] : chosen.filter((id) => !set.profiles.includes(id)));
  const toggle = (id: number, on: boolean) => choose(on ? [...chosen, id] : chosen.filter((c) => c !== id));
  const shown = [...open, ...profiles.filter((p) => !open.includes(p) && p.state !== "disconnected")];
  return (
    <ChoiceMenu
      end
      label="Profiles"
      trigger={
        <Button>
          Profiles <b>{chosen.length}</b>
        </Button>
      }
      empty="No profile is connected yet."
      choices={[
        ...sets.map((set, n) => ({
          value: `set-${set.id}`,
          words: set.name,
          more: `set of ${set.profiles.length}`,
          refused: usable(set).length ? undefined : "none of it can be planned for",
          ends: n === sets.length - 1,
        })),
        ...shown.map((profile) => ({
          ...asChoice(profile),
          more: [
            asChoice(profile).more,
            profile.paused && "paused",
            profile.usable && profile.state !== "connected" && stateOf(profile),
          ]
            .filter(Boolean)
            .join(", "),
          refused: profile.usable ? undefined : stateOf(profile),
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
}

const stateOf = (profile: Profile) => profile.state.replaceAll("_", " ");
