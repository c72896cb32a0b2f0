import { Box } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useHere } from "@/app/useHere";
import { useChanged } from "@/data/changes";
import { createDrafts } from "@/data/posts";
import { trayWords } from "@/features/posts/trayWords";
import { ProfileTicks } from "@/features/profiles/ProfileTicks";
import { useProfiles } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { SidePanel } from "@/ui/SidePanel";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import type { Asset } from "./queries";

/** One draft for each picture, with its caption; they wait in the tray to be laid out. */
export function BatchButton({ assets, close }: { assets: Asset[]; close: () => void }) {
  const { brand } = useBrandContext();
  const profiles = (useProfiles(brand.slug).data ?? []).filter((p) => p.usable);
  const changed = useChanged(brand.slug);
  const navigate = useNavigate();
  const here = useHere();
  const form = useForm();
  const [chosen, setChosen] = useState<number[]>([]);

  const make = () =>
    form.send(async () => {
      const from = here();
      const body = { ids: assets.map((a) => a.id), profiles: chosen };
      const made = await createDrafts(brand.slug, body);
      await changed("post", "asset");
      toast(trayWords(made.posts.length));
      if (here() !== from) return;
      void navigate({
        to: "/$brand/calendar",
        params: { brand: brand.slug },
        search: { lay: made.posts.join(",") },
      });
    });
  return (
    <SidePanel title={`${assets.length} ${assets.length === 1 ? "draft" : "drafts"}`} open close={close}>
      <Box color="faded" mb="12px">
        Each picture becomes a draft that says its caption. Choose for whom; then they are laid out, with every date in
        sight before it is fixed.
      </Box>
      <ProfileTicks profiles={profiles} chosen={chosen} change={setChosen} />
      {form.problem && (
        <Box role="alert" color="pimenton" mt="10px">
          {form.problem.message}
        </Box>
      )}
      <Button kind="main" mt="14px" disabled={form.busy} onClick={() => void make()}>
        Make {assets.length === 1 ? "the draft" : `${assets.length} drafts`}
      </Button>
    </SidePanel>
  );
}
