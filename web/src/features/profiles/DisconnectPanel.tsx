import { Box, chakra } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { disconnectProfile } from "@/data/delivery";
import { Button } from "@/ui/Button";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { useNetworks } from "./queries";

type Then = "drafts" | "call_off";

/** Disconnecting asks first, says what hangs on it, and what shall become of that. */
export function DisconnectPanel({ profile, close }: { profile: Profile; close: () => void }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const network = useNetworks().get(profile.network);
  const form = useForm();
  const [then, setThen] = useState<Then>("drafts");
  const hand = profile.state === "by_hand";
  const hanging = profile.planned + profile.trouble;

  async function send(event: FormEvent) {
    event.preventDefault();
    let count = 0;
    const fine = await form.send(async () => {
      count = (await disconnectProfile(brand.slug, profile.id, { then })).count;
    });
    if (!fine) return;
    await changed("profile");
    const what = then === "drafts" ? "drafts again" : "called off";
    toast(
      `${profile.handle} is ${hand ? "taken out" : "disconnected"}. ${count ? `${count} planned ${count === 1 ? "delivery is" : "deliveries are"} ${what}.` : ""}`,
    );
    close();
  }
  return (
    <SidePanel
      title={`${hand ? "Take out" : "Disconnect"} ${profile.display_name || profile.handle}`}
      open
      close={close}
    >
      <chakra.form onSubmit={send}>
        <Box mb="12px">
          {hanging === 0 ? (
            "Nothing is planned for it."
          ) : (
            <b>
              {hanging} {hanging === 1 ? "delivery hangs" : "deliveries hang"} on it.
            </b>
          )}{" "}
          What was published stays where it is, and in the calendar.
          {!hand &&
            ` ${network?.name} is told that Menudo needs no access any longer, unless another profile shares the sign-in.`}
        </Box>
        {hanging > 0 && (
          <Box as="fieldset" mb="14px">
            <Box as="legend" fontWeight="600" fontSize="13px">
              What becomes of what is planned
            </Box>
            <Tick kind="radio" name="then" checked={then === "drafts"} onChange={() => setThen("drafts")}>
              Keep it as drafts, in the tray
            </Tick>
            <Tick kind="radio" name="then" checked={then === "call_off"} onChange={() => setThen("call_off")}>
              Call it off
            </Tick>
          </Box>
        )}
        <Button kind="main" type="submit" disabled={form.busy}>
          {hand ? "Take it out" : "Disconnect it"}
        </Button>
        {form.problem && (
          <Box role="alert" color="pimenton" mt="8px">
            {form.problem.message}
          </Box>
        )}
      </chakra.form>
    </SidePanel>
  );
}
