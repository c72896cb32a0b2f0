import { Menu, Portal } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { Problem } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useHere } from "@/app/useHere";
import { useChanged } from "@/data/changes";
import { binPost, duplicatePost, restorePost } from "@/data/posts";
import { Button } from "@/ui/Button";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { toast } from "@/ui/toasts";
import type { useBench } from "../useBench";
import { HistoryPanel } from "./HistoryPanel";

/** What can be done with the whole post: its history, a copy, the bin. */
export function BenchMenu({ bench, id }: { bench: ReturnType<typeof useBench>; id: number }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const navigate = useNavigate();
  const here = useHere();
  const [history, setHistory] = useState(false);
  const open = (post: number) =>
    navigate({ to: "/$brand/bench/$post", params: { brand: brand.slug, post: String(post) }, search: {} });

  // Only who is still at the post is led on from it.
  const isHere = () => here() === `/${brand.slug}/bench/${id}`;

  async function attempt(act: () => Promise<void>) {
    try {
      await bench.write();
      await act();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    }
  }
  const copy = (times: boolean) =>
    attempt(async () => {
      const made = await duplicatePost(brand.slug, id, { times });
      await changed("post");
      toast(times ? "A copy, with the times of the first. Nothing of it is planned." : "A copy, without times.");
      if (isHere()) void open(made.id);
    });
  const bin = () =>
    attempt(async () => {
      await binPost(brand.slug, id);
      await changed("post");
      if (isHere()) void navigate({ to: "/$brand/calendar", params: { brand: brand.slug }, search: {} });
      toast("In the bin, for 30 days.", {
        undo: async () => {
          await restorePost(brand.slug, id);
          void open(id);
        },
      });
    });
  return (
    <>
      <Menu.Root lazyMount unmountOnExit positioning={{ placement: "bottom-end" }}>
        <Menu.Trigger asChild>
          <Button aria-label="More for this post">⋯</Button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              <MenuRow value="history" onSelect={() => setHistory(true)}>
                History
              </MenuRow>
              <MenuRow value="copy" onSelect={() => void copy(false)}>
                Duplicate
              </MenuRow>
              <MenuRow value="copy-times" onSelect={() => void copy(true)}>
                Duplicate with its times
              </MenuRow>
              <MenuRow value="bin" onSelect={() => void bin()}>
                To the bin
              </MenuRow>
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
      {history && <HistoryPanel bench={bench} id={id} close={() => setHistory(false)} />}
    </>
  );
}
