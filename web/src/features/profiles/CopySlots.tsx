import { Box, chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { copyTimetable } from "@/data/profiles";
import { Button } from "@/ui/Button";
import { NetworkTile } from "@/ui/NetworkTile";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { useNetworks, useProfiles } from "./queries";

/** The same slots for other profiles, in place of theirs. */
export function CopySlots({ profile }: { profile: Profile }) {
  const { brand } = useBrandContext();
  const networks = useNetworks();
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
        {others.map((p) => {
          const network = networks.get(p.network);
          return (
            <Tick
              key={p.id}
              checked={chosen.includes(p.id)}
              onChange={(e) =>
                setChosen((all) => (e.target.checked ? [...all, p.id] : all.filter((id) => id !== p.id)))
              }
            >
              <Flex gap="6px" align="center">
                {network && <NetworkTile letters={network.letters} shape={network.shape} size={18} />}
                {p.display_name || p.handle}
              </Flex>
            </Tick>
          );
        })}
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
