import { Box, chakra } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { followZone } from "@/data/posts";
import { describeProfile } from "@/data/profiles";
import { usePeople } from "@/features/people/queries";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";
import { formatZone } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { ZoneField } from "@/ui/ZoneField";
import { ZoneHold } from "./ZoneHold";

/** What the team calls a profile, its own zone, and who is in charge of it. */
export function DescribePanel({ profile, close }: { profile: Profile; close: () => void }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const people = usePeople(brand.slug).data?.members ?? [];
  const form = useForm();
  const [called, setCalled] = useState(profile.display_name);
  const [zone, setZone] = useState(profile.zone_own ? profile.zone : "");
  const [hold, setHold] = useState<"wall" | "instant">("wall");
  // Another zone, with something planned: what holds for it is asked.
  const moves = (zone || brand.zone) !== profile.zone && profile.planned > 0;
  const [keeper, setKeeper] = useState(profile.keeper);

  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { display_name: called, zone, keeper };
    if (!(await form.send(() => describeProfile(brand.slug, profile.id, body)))) return;
    if (moves) {
      const follow = { profile: profile.id, was: profile.zone, hold };
      await form.send(() => followZone(brand.slug, follow));
    }
    await changed("profile");
    toast(`${called || profile.handle} is kept.`);
    close();
  }
  return (
    <SidePanel title={profile.handle} open close={close}>
      <chakra.form onSubmit={send}>
        <Field
          label="What the team calls it"
          placeholder={profile.handle}
          value={called}
          onChange={(e) => setCalled(e.currentTarget.value)}
          error={form.at("/display_name")}
          maxLength={120}
        />
        <ZoneField
          label="Its own time zone"
          empty={`As the brand: ${formatZone(brand.zone)}`}
          value={zone}
          change={setZone}
          error={form.at("/zone")}
        />
        <Box color="faded" fontSize="12px" mt="-8px" mb="14px">
          Its timetable is meant in this zone.
        </Box>
        {moves && (
          <ZoneHold planned={profile.planned} was={profile.zone} zone={zone || brand.zone} hold={hold} set={setHold} />
        )}
        <Select
          label="In charge, when it is published by hand"
          value={keeper ?? ""}
          onChange={(e) => setKeeper(e.currentTarget.value ? Number(e.currentTarget.value) : null)}
          error={form.at("/keeper")}
        >
          <option value="">Whoever may publish</option>
          {people.map((p) => (
            <option key={p.user} value={p.user}>
              {p.name}
            </option>
          ))}
        </Select>
        <Button kind="main" type="submit" disabled={form.busy}>
          Keep
        </Button>
      </chakra.form>
    </SidePanel>
  );
}
