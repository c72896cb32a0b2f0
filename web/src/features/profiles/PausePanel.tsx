import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { endAllPauses, pause, pauseAll } from "@/data/delivery";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { WallTimeInput } from "@/ui/WallTimeInput";
import { useObstacles } from "./queries";

/** Stop one profile, the brand, or all brands: now, until a time or until somebody resumes. */
export function PausePanel({ profile, close }: { profile: Profile | null; close: () => void }) {
  const { brand, me } = useBrandContext();
  const changed = useChanged(brand.slug);
  const paused = useObstacles(brand.slug).data?.pauses.some((p) => p.profile === null) ?? false;
  const form = useForm();
  const [all, setAll] = useState(false);
  const [timed, setTimed] = useState(false);
  const [date, setDate] = useState("");
  const [time, setTime] = useState("09:00");
  const [why, setWhy] = useState("");
  const whose = profile ? profile.display_name || profile.handle : all ? "all your brands" : brand.name;

  async function send(event: FormEvent) {
    event.preventDefault();
    const until = timed ? `${date}T${time}` : "";
    const fine = await form.send(() =>
      all && !profile
        ? pauseAll({ ends_at: until, reason: why })
        : pause(brand.slug, { profile: profile?.id ?? null, ends_at: until, reason: why }),
    );
    if (!fine) return;
    await changed("profile");
    toast(`${whose[0]?.toUpperCase()}${whose.slice(1)} ${all && !profile ? "are" : "is"} paused. Nothing goes out.`);
    close();
  }
  async function resumeAll() {
    const fine = await form.send(() => endAllPauses());
    if (!fine) return;
    await changed("profile");
    toast("All your brands go on. What was missed waits for your choice in each.");
    close();
  }
  return (
    <SidePanel title={`Pause ${profile ? whose : ""}`} open close={close}>
      <Box color="faded" mb="12px">
        Nothing goes out meanwhile. When it is over, you choose what happens to what was missed: send now, next free
        slots, or drafts.
      </Box>
      <chakra.form onSubmit={send}>
        {!profile && me.brands.length > 1 && (
          <Box as="fieldset" mb="14px">
            <Box as="legend" fontWeight="600" fontSize="13px">
              What
            </Box>
            <Tick kind="radio" name="whose" checked={!all} onChange={() => setAll(false)}>
              All of {brand.name}
            </Tick>
            <Tick kind="radio" name="whose" checked={all} onChange={() => setAll(true)}>
              All your brands
            </Tick>
          </Box>
        )}
        <Box as="fieldset" mb="14px">
          <Box as="legend" fontWeight="600" fontSize="13px">
            How long
          </Box>
          <Tick kind="radio" name="long" checked={!timed} onChange={() => setTimed(false)}>
            Until somebody resumes
          </Tick>
          <Tick kind="radio" name="long" checked={timed} onChange={() => setTimed(true)}>
            Until a day and time
          </Tick>
          {timed && (
            <WallTimeInput
              date={date}
              time={time}
              zone={brand.zone}
              change={(d, t) => {
                setDate(d);
                setTime(t);
              }}
              error={form.at("/ends_at")}
            />
          )}
        </Box>
        <Field
          label="Why (everyone sees it)"
          value={why}
          onChange={(e) => setWhy(e.currentTarget.value)}
          maxLength={200}
          error={form.at("/reason")}
        />
        <Flex gap="8px">
          <Button kind="main" type="submit" disabled={form.busy}>
            Pause {whose}
          </Button>
          {paused && all && !profile && <Button onClick={() => void resumeAll()}>Resume all your brands</Button>}
        </Flex>
        {form.loose("/ends_at", "/reason") && (
          <Box role="alert" color="pimenton" mt="8px">
            {form.loose("/ends_at", "/reason")}
          </Box>
        )}
      </chakra.form>
    </SidePanel>
  );
}
