import { Box, chakra } from "@chakra-ui/react";
import { useState } from "react";
import type { Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { copyTimetable } from "@/data/profiles";
import { Button } from "@/ui/Button";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { ProfileTicks } from "./ProfileTicks";
import { useProfiles } from "./queries";

/** The same slots for other profiles, in place of theirs. */
export function CopySlots({ profile }: { profile: Profile }) {
  const { brand } = useBrandContext();
  const others = (useProfiles(brand.slug).data ?? []).filter((p) => p.id !== profile.id && p.state !== "disconnected");
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [chosen, setChosen] = useState<number[]>([]);
  const copy = () =>
    form.send(async () => {
      const many = await copyTimetable(brand.slug, profile.id, { profiles: chosen });
      await changed("profile");
      setChosen([]);
      toast(`${many} ${many === 1 ? "profile has" : "profiles have"} these slots now.`);
    });
  if (!others.length) return null;
  return (
    <chakra.details mt="14px" borderTopWidth="1px" borderColor="rule" pt="10px">
      <chakra.summary cursor="pointer" minH="26px" fontWeight="600">
        Copy this timetable to other profiles
      </chakra.summary>
      <Box maxH="220px" overflowY="auto">
        <ProfileTicks profiles={others} chosen={chosen} change={setChosen} />
      </Box>
      {form.problem && (
        <Box role="alert" color="pimenton">
          {form.problem.message}
        </Box>
      )}
      <Button mt="6px" onClick={copy} disabled={!chosen.length || form.busy}>
        Replace theirs
      </Button>
    </chakra.details>
  );
}
